import type { OrderKey } from '../language/stages/stage.ts';
import type { Conjunct } from './conjuncts.ts';
import type { KeyCondition } from './keyConditions.ts';
import { matchIndex, type IndexMatch } from './matchIndex.ts';
import type { PlannedSource, Selectivity } from './source.ts';
import type { IndexStatistics } from './statistics.ts';

/** What is asked of a collection before any other stage: conditions, perhaps an order, perhaps only the first rows. */
export interface Question {
  readonly conjuncts: readonly Conjunct[];
  readonly conditions: readonly KeyCondition[];
  readonly order: readonly OrderKey[];
  /** So many rows in that order are all that is wanted; undefined for all. */
  readonly demand: number | undefined;
}

/** A way to get at the documents, with what it would cost. */
export interface Way {
  readonly kind: 'fullScan' | 'index';
  readonly statistics?: IndexStatistics;
  readonly match?: IndexMatch;
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  /** Rows that are sorted because the way does not give the order. */
  readonly rowsSorted: number;
  readonly rows: number;
  /** In units of reading one document in a scan. */
  readonly cost: number;
}

export interface UselessIndex {
  readonly statistics: IndexStatistics;
  readonly reason: string;
}

/** Costs in units of reading and testing one document in a scan, measured by the bench on documents of the demo. */
const costs = {
  /** One entry and its document, in insertion order: positions are collected, sorted, and followed. */
  entry: 3,
  /** The same in the order of the index, entry by entry. */
  orderedEntry: 5,
  /** One row of a full sort, for each time that the number of rows doubles. */
  sortedRow: 0.6,
  /** One row that is held against the least of the N best. */
  topNRow: 1.5,
  /** Beginning to use an index at all. */
  start: 2,
};

export function fullScanWay(source: PlannedSource, question: Question, selectivity: Selectivity): Way {
  const all = source.store.count;
  const common = { kind: 'fullScan', indexEntriesRead: 0 } as const;
  if (question.order.length === 0 && question.demand === undefined) {
    // How many rows come out makes no difference to what it costs, and may never be asked.
    return {
      ...common,
      documentsRead: all,
      rowsSorted: 0,
      cost: all,
      get rows() {
        return all * selectivity.of(question.conjuncts);
      },
    };
  }
  const share = selectivity.of(question.conjuncts);
  const rows = all * share;
  const stops = question.order.length === 0 && question.demand !== undefined;
  const documentsRead = stops ? Math.min(all, Math.ceil((question.demand ?? 0) / Math.max(share, 1e-9))) : all;
  const rowsSorted = question.order.length > 0 ? rows : 0;
  return { ...common, documentsRead, rowsSorted, rows, cost: documentsRead + sortCost(rowsSorted, question.demand) };
}

function sortCost(rows: number, demand: number | undefined): number {
  if (rows <= 1) return 0;
  if (demand !== undefined && demand < rows / 4) return rows * costs.topNRow;
  return rows * costs.sortedRow * Math.log2(rows);
}

export function indexWay(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: Question,
  selectivity: Selectivity,
): Way | UselessIndex {
  const match = matchIndex(statistics, question.conjuncts, question.conditions, question.order);
  if ('reason' in match) return { statistics, reason: match.reason };
  const inOrder = costOf(source, statistics, match, question, selectivity);
  if (match.ordered === undefined || match.used.length === 0) return inOrder;
  // Reading in insertion order and sorting can be cheaper than following the index entry by entry.
  const sorted = costOf(source, statistics, { ...match, ordered: undefined }, question, selectivity);
  return sorted.cost < inOrder.cost ? sorted : inOrder;
}

function costOf(source: PlannedSource, statistics: IndexStatistics, match: IndexMatch, question: Question, selectivity: Selectivity): Way {
  const all = source.store.count;
  let entries = 0;
  for (const range of match.ranges) entries += statistics.count(range);
  if (match.ordered?.empties !== undefined && match.used.length === 0) entries += statistics.absent;
  entries = Math.min(entries, Math.max(all, statistics.entries));
  const residual = question.conjuncts.filter((conjunct) => !match.served.includes(conjunct));
  // How many of the documents found pass the other conditions: from the sample, unless nothing is left to test.
  const rows = residual.length === 0 || entries <= 1 ? entries : Math.min(entries, all * selectivity.of(question.conjuncts));
  const stops = question.demand !== undefined && (match.ordered !== undefined || question.order.length === 0);
  const reads = stops ? Math.min(entries, Math.ceil((question.demand ?? 0) * (entries / Math.max(rows, 0.5)))) : entries;
  const entriesRead = match.ordered !== undefined ? reads : entries;
  const rowsSorted = question.order.length > 0 && match.ordered === undefined ? rows : 0;
  const cost =
    costs.start + (match.ordered !== undefined ? reads * costs.orderedEntry : entriesRead * costs.entry * 0.4 + reads * costs.entry * 0.6);
  return {
    kind: 'index',
    statistics,
    match,
    documentsRead: reads,
    indexEntriesRead: entriesRead,
    rowsSorted,
    rows,
    cost: cost + sortCost(rowsSorted, question.demand),
  };
}
