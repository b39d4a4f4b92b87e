import type { PathRequest } from './pathRequest.ts';
import { aroundOf, matchDisjunction } from './disjunctions.ts';
import type { Conjunct } from '../conjuncts.ts';
import type { Constant } from './keyConditions.ts';
import { matchIndex, withoutOrder, type NoMatch } from './matchIndex.ts';
import type { IndexMatch } from './indexMatch.ts';
import { entriesOf, matchPositions } from './positions.ts';
import type { PositionsIndex } from '../positionsIndex.ts';
import type { PlannedSource } from '../source.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { AccessPath, AccessQuestion, IndexSet, SetPart } from './path.ts';
import { costs, sortCost } from '../cost.ts';

/** Those that find the fewest are put together with one another. */
const mostParts = 4;

/** The indexes whose positions may be put together. */
export interface SetIndexes {
  readonly ordered: readonly IndexStatistics[];
  readonly others: readonly PositionsIndex[];
  readonly valueOf: Constant;
}

/** For each `||` whose every alternative some index serves: the union of what they find. */
export function unionPaths(request: PathRequest, indexes: SetIndexes): AccessPath[] {
  const { source, question, selectivity } = request;
  return question.alternatives.flatMap((alternatives) => {
    const { conjunct, options } = alternatives;
    const { others, conditions: around } = aroundOf(alternatives, question);
    const parts: SetPart[] = [];
    for (const { own, conditions } of options) {
      const conjuncts = [...own, ...others];
      const ways = [
        ...indexes.ordered.flatMap((one) => orderedPart(one, matchIndex(one, conjuncts, [...conditions, ...around], []))),
        ...indexes.others.flatMap((one) => positionsParts(source, one, conjuncts, indexes.valueOf)),
      ];
      const part = fewest(ways.filter(({ used }) => used.some((one) => own.includes(one))));
      if (part === undefined) return [];
      parts.push(part);
    }
    const everywhere = (one: Conjunct) => parts.every(({ served }) => served.includes(one));
    const isServed = options.every(({ own }, i) => own.every((one) => parts[i]!.served.includes(one)));
    const set: IndexSet = {
      combine: 'union',
      parts,
      used: [conjunct, ...others.filter((one) => parts.every(({ used }) => used.includes(one)))],
      served: [...(isServed ? [conjunct] : []), ...others.filter(everywhere)],
    };
    const entries = parts.reduce((sum, part) => sum + part.entries, 0);
    // As many at least as one of them finds, where an entry is a document; a sample tells little of a few.
    const single = parts.filter(({ statistics }) => !statistics.definition.keys.some(({ several }) => several));
    const least = Math.max(0, ...single.map((part) => part.entries));
    const documents = Math.max(least, Math.min(entries, source.store.count * selectivity.of(set.used)));
    return [setWay(set, { entries, found: documents }, request)];
  });
}

/** The one that finds the fewest entries. */
function fewest(parts: readonly SetPart[]): SetPart | undefined {
  return parts.reduce<SetPart | undefined>((best, part) => (best === undefined || part.entries < best.entries ? part : best), undefined);
}

/** What an ordered index gives to a set; nothing where it does not match. */
function orderedPart(statistics: IndexStatistics, match: IndexMatch | NoMatch): SetPart[] {
  if ('reason' in match) return [];
  const { ranges, used, served } = match;
  const entries = ranges.reduce((sum, range) => sum + statistics.count(range), 0);
  return [{ statistics, asks: { index: statistics.definition.name, ranges }, entries, used, served }];
}

/** What an index of another kind gives to a set. */
function positionsParts(source: PlannedSource, statistics: PositionsIndex, conjuncts: readonly Conjunct[], valueOf: Constant): SetPart[] {
  const ways = matchPositions(statistics, conjuncts, valueOf);
  if ('reason' in ways) return [];
  const index = statistics.definition.name;
  return ways.map(({ path: { lookup, words, used, served }, counted }) => ({
    statistics,
    asks: { index, lookup, words },
    entries: entriesOf(source, statistics, counted),
    used,
    served,
  }));
}

/** Pairs of indexes that serve different conditions: the intersection of what they find. */
export function intersectionPaths(request: PathRequest, indexes: SetIndexes): AccessPath[] {
  const { source, question, selectivity } = request;
  const parts = [
    ...indexes.ordered.flatMap((statistics) => positionsBy(statistics, question)),
    ...indexes.others.flatMap((one) => positionsParts(source, one, question.conjuncts, indexes.valueOf)),
  ]
    .filter(({ used }) => used.length > 0)
    .sort((a, b) => a.entries - b.entries)
    .slice(0, mostParts);
  return parts.flatMap((first, i) =>
    parts.slice(i + 1).flatMap((second) => {
      const adds = (a: SetPart, b: SetPart) => a.used.some((one) => !b.used.includes(one));
      if (!adds(first, second) || !adds(second, first)) return [];
      const both = (pick: (part: SetPart) => readonly Conjunct[]) => [...new Set([...pick(first), ...pick(second)])];
      const set: IndexSet = {
        combine: 'intersection',
        parts: [first, second],
        used: both(({ used }) => used),
        served: both(({ served }) => served),
      };
      const [a, b] = [first.entries, second.entries];
      return [setWay(set, { entries: a + b, found: Math.min(a, b, source.store.count * selectivity.of(set.used)) }, request)];
    }),
  );
}

/** What an index finds for conditions, in insertion order: a walk in its own order may leave null and missing for later. */
function positionsBy(statistics: IndexStatistics, question: AccessQuestion): SetPart[] {
  const plain = matchIndex(statistics, question.conjuncts, question.conditions, []);
  const byAlternatives = question.alternatives.flatMap((one) => {
    const match = matchDisjunction(statistics, question, one);
    return (match && withoutOrder(match)) ?? [];
  });
  return [plain, ...byAlternatives].flatMap((match) => orderedPart(statistics, match));
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
