import type { PathRequest } from './pathRequest.ts';
import { aroundOf, matchDisjunction } from './disjunctions.ts';
import type { Conjunct } from '../conjuncts.ts';
import { matchIndex, withoutOrder } from './matchIndex.ts';
import type { IndexMatch } from './indexMatch.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { AccessPath, AccessQuestion, IndexSet } from './path.ts';
import { costs, sortCost } from '../cost.ts';

/** Those that find the fewest are put together with one another. */
const mostParts = 4;

type Part = IndexSet['parts'][number];

/** For each `||` whose every alternative some index serves: the union of what they find. */
export function unionPaths(
  source: PlannedSource,
  indexes: readonly IndexStatistics[],
  question: AccessQuestion,
  selectivity: Selectivity,
): AccessPath[] {
  return question.alternatives.flatMap((alternatives) => {
    const { conjunct, options } = alternatives;
    // An alternative that asks nothing of any key is found by no index.
    if (options.some(({ conditions }) => conditions.length === 0)) return [];
    const { others, conditions: around } = aroundOf(alternatives, question);
    const parts: Part[] = [];
    for (const { own, conditions } of options) {
      const part = cheapestPart(indexes, [...own, ...others], [...conditions, ...around], own);
      if (part === undefined) return [];
      parts.push(part);
    }
    const everywhere = (one: Conjunct) => parts.every(({ match }) => match.served.includes(one));
    const isServed = options.every(({ own }, i) => own.every((one) => parts[i]!.match.served.includes(one)));
    const set: IndexSet = {
      combine: 'union',
      parts,
      used: [conjunct, ...others.filter((one) => parts.every(({ match }) => match.used.includes(one)))],
      served: [...(isServed ? [conjunct] : []), ...others.filter(everywhere)],
    };
    const found = parts.map(entriesOf);
    const entries = found.reduce((sum, n) => sum + n, 0);
    // As many at least as one of them finds, where an entry is a document; a sample tells little of a few.
    const least = Math.max(0, ...found.filter((_, i) => !parts[i]!.statistics.definition.keys.some(({ several }) => several)));
    const documents = Math.max(least, Math.min(entries, source.store.count * selectivity.of(set.used)));
    return [setWay(set, { entries, found: documents }, { source, question, selectivity })];
  });
}

/** The index that finds the fewest entries for one alternative. */
function cheapestPart(
  indexes: readonly IndexStatistics[],
  conjuncts: readonly Conjunct[],
  conditions: Parameters<typeof matchIndex>[2],
  own: readonly Conjunct[],
): Part | undefined {
  let best: { part: Part; entries: number } | undefined;
  for (const statistics of indexes) {
    const match = matchIndex(statistics, conjuncts, conditions, []);
    if ('reason' in match || !match.used.some((one) => own.includes(one))) continue;
    const entries = entriesOf({ statistics, match });
    if (best === undefined || entries < best.entries) best = { part: { statistics, match }, entries };
  }
  return best?.part;
}

/** Pairs of indexes that serve different conditions: the intersection of what they find. */
export function intersectionPaths(
  source: PlannedSource,
  indexes: readonly IndexStatistics[],
  question: AccessQuestion,
  selectivity: Selectivity,
): AccessPath[] {
  const parts = indexes
    .flatMap((statistics) => positionsBy(statistics, question))
    .sort((a, b) => entriesOf(a) - entriesOf(b))
    .slice(0, mostParts);
  return parts.flatMap((first, i) =>
    parts.slice(i + 1).flatMap((second) => {
      const adds = (a: Part, b: Part) => a.match.used.some((one) => !b.match.used.includes(one));
      if (!adds(first, second) || !adds(second, first)) return [];
      const both = (pick: (match: IndexMatch) => readonly Conjunct[]) => [...new Set([...pick(first.match), ...pick(second.match)])];
      const set: IndexSet = {
        combine: 'intersection',
        parts: [first, second],
        used: both(({ used }) => used),
        served: both(({ served }) => served),
      };
      const [a, b] = [entriesOf(first), entriesOf(second)];
      return [
        setWay(
          set,
          { entries: a + b, found: Math.min(a, b, source.store.count * selectivity.of(set.used)) },
          { source, question, selectivity },
        ),
      ];
    }),
  );
}

/** What an index finds for conditions, in insertion order: a walk in its own order may leave null and missing for later. */
function positionsBy(statistics: IndexStatistics, question: AccessQuestion): Part[] {
  const plain = matchIndex(statistics, question.conjuncts, question.conditions, []);
  const byAlternatives = question.alternatives.flatMap((one) => {
    const match = matchDisjunction(statistics, question, one);
    return (match && withoutOrder(match)) ?? [];
  });
  return [...('reason' in plain ? [] : [plain]), ...byAlternatives]
    .filter(({ used }) => used.length > 0)
    .map((match) => ({ statistics, match }));
}

function entriesOf({ statistics, match }: Part): number {
  return match.ranges.reduce((sum, range) => sum + statistics.count(range), 0);
}

function setWay(
  set: IndexSet,
  { entries, found }: { readonly entries: number; readonly found: number },
  { source, question, selectivity }: PathRequest,
): AccessPath {
  const isAll = question.conjuncts.every((conjunct) => set.served.includes(conjunct));
  const rows = isAll ? found : Math.min(found, source.store.count * selectivity.of(question.conjuncts));
  const stops = question.demand !== undefined && question.order.length === 0;
  const reads = stops ? Math.min(found, Math.ceil((question.demand ?? 0) * (found / Math.max(rows, 0.5)))) : found;
  const rowsSorted = question.order.length > 0 ? rows : 0;
  return {
    kind: 'indexSet',
    set,
    documentsRead: reads,
    indexEntriesRead: entries,
    rowsSorted,
    rows,
    cost: costs.start * set.parts.length + entries * costs.position + reads * costs.fetched + sortCost(rowsSorted, question.demand),
    sorting: sortCost(rowsSorted, question.demand),
  };
}
