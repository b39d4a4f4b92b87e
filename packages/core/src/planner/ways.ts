import type { Told } from '../language/wording.ts';
import type { BuiltIndex } from '../indexes/kind.ts';
import type { OrderKey } from '../language/stages/stage.ts';
import type { Conjunct } from './conjuncts.ts';
import { matchAlternatives, type Alternatives } from './alternatives.ts';
import { coveringTargets, type FieldsRead } from './covering.ts';
import { costs } from './costs.ts';
import type { KeyCondition } from './keyConditions.ts';
import { matchIndex, withoutOrder, type IndexMatch } from './matchIndex.ts';
import type { PositionsPath } from './paths/positions.ts';
import type { Covering } from './physical.ts';
import type { PlannedSource, Selectivity } from './source.ts';
import type { IndexStatistics } from './statistics.ts';

/** What is asked of a collection before any other stage: conditions, perhaps an order, perhaps only the first rows. */
export interface Question {
  readonly conjuncts: readonly Conjunct[];
  readonly conditions: readonly KeyCondition[];
  /** Conditions joined by `||` that no key condition stands for. */
  readonly alternatives: readonly Alternatives[];
  readonly order: readonly OrderKey[];
  /** So many rows in that order are all that is wanted; undefined for all. */
  readonly demand: number | undefined;
  /** All that the pipeline reads of the documents, where that is known. */
  readonly read: FieldsRead;
}

/** A way to get at the documents, with what it would cost. */
export interface Way {
  readonly kind: 'fullScan' | 'index' | 'indexSet' | 'positions';
  readonly statistics?: IndexStatistics;
  readonly match?: IndexMatch;
  /** The rows are made of the keys, and no document is read. */
  readonly covering?: Covering;
  /** Several indexes whose positions are put together. */
  readonly set?: IndexSet;
  /** What an index of another kind than the ordered one finds. */
  readonly path?: PositionsPath;
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  /** Rows that are sorted because the way does not give the order. */
  readonly rowsSorted: number;
  readonly rows: number;
  /** In units of reading one document in a scan. */
  readonly cost: number;
}

/** Positions that several indexes give together. */
export interface IndexSet {
  readonly combine: 'union' | 'intersection';
  readonly parts: readonly { readonly statistics: IndexStatistics; readonly match: IndexMatch }[];
  /** The conditions that it stands for; those that need no second test. */
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
}

/** The conditions that a way serves whole. */
export function servedBy({ match, set, path }: Way): readonly Conjunct[] {
  return (match ?? set ?? path)?.served ?? [];
}
/** The conditions that a way looks for. */
export function usedBy({ match, set, path }: Way): readonly Conjunct[] {
  return (match ?? set ?? path)?.used ?? [];
}

/** An index of any kind, built or not. */
export type AnyIndex = Pick<IndexStatistics, 'definition'> & { readonly built: BuiltIndex | undefined };

export interface UselessIndex {
  readonly statistics: AnyIndex;
  readonly reason: Told;
}

/** Every document, in no order that is asked for. How many rows come out makes no difference to what it costs. */
class WholeScan implements Way {
  readonly kind = 'fullScan';
  readonly indexEntriesRead = 0;
  readonly rowsSorted = 0;
  readonly documentsRead: number;
  readonly cost: number;
  private readonly share: () => number;

  constructor(all: number, share: () => number) {
    this.documentsRead = all;
    this.cost = all;
    this.share = share;
  }

  /** May never be asked, and takes a look at a sample where it is. */
  get rows(): number {
    return this.documentsRead * this.share();
  }
}

export function fullScanWay(source: PlannedSource, question: Question, selectivity: Selectivity): Way {
  const all = source.store.count;
  if (question.order.length === 0 && question.demand === undefined) return new WholeScan(all, () => selectivity.of(question.conjuncts));
  const share = selectivity.of(question.conjuncts);
  const rows = all * share;
  const stops = question.order.length === 0 && question.demand !== undefined;
  const documentsRead = stops ? Math.min(all, Math.ceil((question.demand ?? 0) / Math.max(share, 1e-9))) : all;
  const rowsSorted = question.order.length > 0 ? rows : 0;
  return {
    kind: 'fullScan',
    indexEntriesRead: 0,
    documentsRead,
    rowsSorted,
    rows,
    cost: documentsRead + sortCost(rowsSorted, question.demand),
  };
}

export function sortCost(rows: number, demand: number | undefined): number {
  if (rows <= 1) return 0;
  if (demand !== undefined && demand < rows / 4) return rows * costs.topNRow;
  return rows * costs.sortedRow * Math.log2(rows);
}

/** The cheapest way by an index. */
export function indexWay(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: Question,
  selectivity: Selectivity,
): Way | UselessIndex {
  const ways = indexWays(source, statistics, question, selectivity);
  return Array.isArray(ways) ? leastOf(ways) : (ways as UselessIndex);
}

/** The ways by an index that are weighed. */
export function indexWays(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: Question,
  selectivity: Selectivity,
): readonly Way[] | UselessIndex {
  const targets = coveringTargets(statistics.definition, question.read);
  const waysOf = (match: IndexMatch): Way[] => inOrderAndNot(source, statistics, match, question, selectivity, targets);
  const match = matchIndex(statistics, question.conjuncts, question.conditions, question.order);
  const byAlternatives = question.alternatives.flatMap((one) => matchAlternatives(statistics, question, one) ?? []).flatMap(waysOf);
  if ('reason' in match && byAlternatives.length > 0) return byAlternatives;
  if ('reason' in match) {
    // Of no use for finding documents, an index may still have all that is read of them.
    const { where, keys } = statistics.definition;
    const isOfAlternative = question.alternatives.some(({ options }) =>
      options.some(({ conditions }) => conditions.some(({ keyText }) => keyText === keys[0].text)),
    );
    const reason = isOfAlternative ? 'alone it serves some of the alternatives' : match.reason;
    if (targets === undefined || where !== undefined) return { statistics, reason };
    const whole: IndexMatch = { ranges: [{ fixed: [] }], used: [], served: [], lookup: false, ordered: undefined };
    return [costOf(source, statistics, whole, question, selectivity, { targets, absent: true })];
  }
  return [...waysOf(match), ...byAlternatives];
}

/** The same of all that is read by documents, though the index has it: not weighed, but a request may insist on them. */
export function waysByDocuments(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: Question,
  selectivity: Selectivity,
): readonly Way[] {
  const ways = indexWays(source, statistics, { ...question, read: undefined }, selectivity);
  return Array.isArray(ways) ? (ways as readonly Way[]) : [];
}

export function leastOf(ways: readonly Way[]): Way {
  return ways.reduce((best, way) => (way.cost < best.cost ? way : best));
}

/** In the order of the index, or in insertion order with a sort after it: following entry by entry can cost more. */
function inOrderAndNot(
  source: PlannedSource,
  statistics: IndexStatistics,
  match: IndexMatch,
  question: Question,
  selectivity: Selectivity,
  targets: Covering['targets'] | undefined,
): Way[] {
  // Null and missing do not stand where an order wants them, and documents without an entry have no key to give.
  const coveringInOrder = targets && match.ordered?.empties === undefined ? { targets, absent: false } : undefined;
  const inOrder = costOf(source, statistics, match, question, selectivity, match.ordered ? coveringInOrder : covering(targets, match));
  const plain = withoutOrder(match);
  if (match.ordered === undefined || plain === undefined || (match.used.length === 0 && targets === undefined)) return [inOrder];
  return [inOrder, costOf(source, statistics, plain, question, selectivity, covering(targets, plain))];
}

function covering(targets: Covering['targets'] | undefined, { used }: IndexMatch): Covering | undefined {
  return targets && { targets, absent: used.length === 0 };
}

function entriesOf(statistics: IndexStatistics, { ranges, ordered, withAbsent }: IndexMatch): number {
  let entries = withAbsent ? statistics.absent : 0;
  for (const range of ordered?.ranges ?? ranges) entries += statistics.count(range);
  if (ordered?.empties !== undefined) entries += statistics.count(ordered.empties.range);
  return ordered?.empties?.withAbsent ? entries + statistics.absent : entries;
}

function costOf(
  source: PlannedSource,
  statistics: IndexStatistics,
  match: IndexMatch,
  question: Question,
  selectivity: Selectivity,
  keysAlone: Covering | undefined,
): Way {
  const all = source.store.count;
  const found = entriesOf(statistics, match) + (keysAlone?.absent && !match.withAbsent ? statistics.absent : 0);
  const entries = Math.min(found, Math.max(all, statistics.entries));
  const residual = question.conjuncts.filter((conjunct) => !match.served.includes(conjunct));
  // How many of the documents found pass the other conditions: from the sample, unless nothing is left to test.
  const rows = residual.length === 0 || entries <= 1 ? entries : Math.min(entries, all * selectivity.of(question.conjuncts));
  const stops = question.demand !== undefined && (match.ordered !== undefined || question.order.length === 0);
  // Rows that tie on the keys that the index gives are read together.
  const isPartial = match.ordered !== undefined && match.ordered.left.length > 0;
  const tied = isPartial ? Math.max(1, statistics.entries / Math.max(1, statistics.distinct(match.ordered?.end ?? 0))) : 0;
  const reads = stops ? Math.min(entries, Math.ceil(((question.demand ?? 0) + tied) * (entries / Math.max(rows, 0.5)))) : entries;
  const entriesRead = match.ordered !== undefined ? reads : entries;
  const inOrder = match.ordered !== undefined;
  const rowsSorted = question.order.length === 0 || (inOrder && !isPartial) ? 0 : isPartial ? Math.min(rows, reads) : rows;
  const sorting = isPartial
    ? rowsSorted * costs.partialRow + (rowsSorted / tied) * sortCost(tied, undefined)
    : sortCost(rowsSorted, question.demand);
  const reading =
    keysAlone !== undefined
      ? entriesRead * (inOrder ? costs.orderedKeysAlone : costs.keysAlone)
      : inOrder
        ? reads * (match.ordered?.together === 'merged' ? costs.mergedEntry : costs.orderedEntry)
        : entriesRead * costs.position + reads * costs.fetched;
  const cost = costs.start + reading;
  return {
    kind: 'index',
    statistics,
    match,
    ...(keysAlone && { covering: keysAlone }),
    documentsRead: keysAlone === undefined ? reads : 0,
    indexEntriesRead: entriesRead,
    rowsSorted,
    rows,
    cost: cost + sorting,
  };
}
