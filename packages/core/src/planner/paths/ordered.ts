import type { PathRequest } from './pathRequest.ts';
import { costs, sortCost } from '../cost.ts';
import type { Covering } from '../physical.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import type { IndexStatistics } from '../statistics.ts';
import { coveringTargets } from './covering.ts';
import { matchDisjunction } from './disjunctions.ts';
import { matchIndex, withoutOrder } from './matchIndex.ts';
import type { IndexMatch } from './indexMatch.ts';
import { leastOf, type AccessPath, type AccessQuestion, type UselessIndex } from './path.ts';

/** The cheapest way by an index. */
export function cheapestIndexPath(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: AccessQuestion,
  selectivity: Selectivity,
): AccessPath | UselessIndex {
  const ways = indexPaths(source, statistics, question, selectivity);
  return Array.isArray(ways) ? leastOf(ways) : (ways as UselessIndex);
}

/** The ways by an index that are weighed. */
export function indexPaths(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: AccessQuestion,
  selectivity: Selectivity,
): readonly AccessPath[] | UselessIndex {
  const targets = coveringTargets(statistics.definition, question.read);
  const waysOf = (match: IndexMatch): AccessPath[] => inOrderAndNot(statistics, match, { source, question, selectivity }, targets);
  const match = matchIndex(statistics, question.conjuncts, question.conditions, question.order);
  const byAlternatives = question.alternatives.flatMap((one) => matchDisjunction(statistics, question, one) ?? []).flatMap(waysOf);
  if ('reason' in match && byAlternatives.length > 0) return byAlternatives;
  if ('reason' in match) {
    // Of no use for finding documents, an index may still have all that is read of them.
    const { where, keys } = statistics.definition;
    const isOfAlternative = question.alternatives.some(({ options }) =>
      options.some(({ conditions }) => conditions.some(({ keyText }) => keyText === keys[0]!.text)),
    );
    const reason = isOfAlternative ? 'alone it serves some of the alternatives' : match.reason;
    if (targets === undefined || where !== undefined) return { statistics, reason };
    const whole: IndexMatch = { ranges: [{ fixed: [] }], used: [], served: [], lookup: false, ordered: undefined };
    return [costOf(statistics, whole, { source, question, selectivity }, { targets, absent: true })];
  }
  return [...waysOf(match), ...byAlternatives];
}

/** The same of all that is read by documents, though the index has it: not weighed, but a request may insist on them. */
export function pathsByDocuments(
  source: PlannedSource,
  statistics: IndexStatistics,
  question: AccessQuestion,
  selectivity: Selectivity,
): readonly AccessPath[] {
  const ways = indexPaths(source, statistics, { ...question, read: undefined }, selectivity);
  return Array.isArray(ways) ? (ways as readonly AccessPath[]) : [];
}

/** In the order of the index, or in insertion order with a sort after it: following entry by entry can cost more. */
function inOrderAndNot(
  statistics: IndexStatistics,
  match: IndexMatch,
  asked: PathRequest,
  targets: Covering['targets'] | undefined,
): AccessPath[] {
  // Null and missing do not stand where an order wants them, and documents without an entry have no key to give.
  const coveringInOrder = targets && match.ordered?.empties === undefined ? { targets, absent: false } : undefined;
  const inOrder = costOf(statistics, match, asked, match.ordered ? coveringInOrder : covering(targets, match));
  const plain = withoutOrder(match);
  if (match.ordered === undefined || plain === undefined || (match.used.length === 0 && targets === undefined)) return [inOrder];
  return [inOrder, costOf(statistics, plain, asked, covering(targets, plain))];
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

/** Whether entries are rows one for one, and come in one walk: then those that are passed over need not be looked at. */
function canSkip({ definition }: IndexStatistics, { ordered }: IndexMatch): boolean {
  return ordered?.left.length === 0 && ordered.together === 'in turn' && definition.keys.every(({ several }) => !several);
}

function costOf(
  statistics: IndexStatistics,
  match: IndexMatch,
  { source, question, selectivity }: PathRequest,
  keysAlone: Covering | undefined,
): AccessPath {
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
  const skipped = residual.length === 0 && canSkip(statistics, match) ? Math.min(question.skip, entries) : 0;
  const wanted = stops ? Math.min(entries, Math.ceil(((question.demand ?? 0) + tied) * (entries / Math.max(rows, 0.5)))) : entries;
  const reads = Math.max(0, wanted - skipped);
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
    ...(skipped > 0 && { skipped }),
    documentsRead: keysAlone === undefined ? reads : 0,
    indexEntriesRead: entriesRead,
    rowsSorted,
    rows,
    cost: cost + sorting,
    sorting,
  };
}
