import type { IndexMatch } from './indexMatch.ts';
import type { Told } from '../../language/wording.ts';
import { nowhere } from '../../language/places.ts';
import { intersect, missing, type Interval } from '../../indexes/ordered/cuts.ts';
import type { IndexKey } from '../../indexes/definition.ts';
import type { IndexRange } from '../../indexes/ordered/sortedEntries.ts';
import type { OrderKey } from '../../language/stages/stage.ts';
import type { Value } from '../../values/json.ts';
import { conjunctsOf, type Conjunct } from '../conjuncts.ts';
import { keyTextOf, type KeyCondition } from './keyConditions.ts';
import { longestWalk, orderLeft } from './orderedWalk.ts';
import type { IndexStatistics } from '../statistics.ts';

/** The same in insertion order; undefined where only the walk in order finds all that is asked for. */
export function withoutOrder(match: IndexMatch): IndexMatch | undefined {
  return match.inOrderAlone ? undefined : { ...match, ordered: undefined };
}

export interface NoMatch {
  readonly reason: Told;
}

const rangeLimit = 2_000;

/** Finds the ranges of an index that answer conditions, and whether its order is the one that is wanted. */
export function matchIndex(
  statistics: IndexStatistics,
  conjuncts: readonly Conjunct[],
  conditions: readonly KeyCondition[],
  order: readonly OrderKey[],
): IndexMatch | NoMatch {
  const { keys, where } = statistics.definition;
  const unasked = notAskedFor(statistics, conjuncts);
  if (unasked)
    return { reason: ({ expression }) => `it holds only documents for which ${expression(unasked.expression)}, which is not asked for` };
  const { ranges, used, isLookup } = rangesOf(keys, conditions);
  const ordered = longestWalk(statistics, ranges, orderLeft(order, conditions));
  const isWhole = used.length === 0 && ordered === undefined;
  if (isWhole && where === undefined) return { reason: whyUseless(statistics, conditions, order) };
  const match = { ranges, used: used.map(({ conjunct }) => conjunct), served: servedOf(keys, used), lookup: isLookup, ordered };
  return isWhole ? { ...match, withAbsent: true } : match;
}

/** What a partial index asks of its documents and a question does not. */
export function notAskedFor(
  { definition: { where } }: Pick<IndexStatistics, 'definition'>,
  conjuncts: readonly Conjunct[],
): Conjunct | undefined {
  return where && conjunctsOf(where, nowhere).find(({ text }) => !conjuncts.some((conjunct) => conjunct.text === text));
}

/** The conditions that need no second test where their ranges are read. */
export function servedOf(keys: readonly IndexKey[], used: readonly KeyCondition[]): Conjunct[] {
  if (keys.some((key) => key.several)) return [];
  return used.filter(({ exact }) => exact).map(({ conjunct }) => conjunct);
}

export interface FoundRanges {
  readonly ranges: readonly IndexRange[];
  readonly used: readonly KeyCondition[];
  readonly isLookup: boolean;
}

/** Points of the leading keys, then perhaps an interval of the next: what conditions ask of an index. */
export function rangesOf(keys: readonly IndexKey[], conditions: readonly KeyCondition[]): FoundRanges {
  let fixed: Value[][] = [[]];
  let interval: Interval | undefined;
  const used: KeyCondition[] = [];
  for (const key of keys) {
    const about = conditions.filter(({ keyText }) => keyText === key.text);
    const byPoints = about.find(({ asks }) => asks.kind === 'points');
    if (byPoints?.asks.kind === 'points') {
      const { points } = byPoints.asks;
      const longer = fixed.flatMap((values) => points.map((point) => [...values, point]));
      if (longer.length > rangeLimit) break;
      fixed = longer;
      used.push(byPoints);
      continue;
    }
    const intervals = about.flatMap((condition) =>
      condition.asks.kind === 'interval' ? [{ condition, interval: condition.asks.interval }] : [],
    );
    if (intervals.length === 0) {
      const absence = about.find(({ asks }) => asks.kind === 'missing');
      if (absence === undefined || key.several || used.length === 0) break;
      interval = missing;
      used.push(absence);
      break;
    }
    // Conditions on an array may hold for different elements: only one of them bounds the entries.
    for (const part of key.several ? intervals.slice(0, 1) : intervals) {
      const narrowed: Interval | undefined = interval === undefined ? part.interval : intersect(interval, part.interval);
      if (narrowed === undefined) fixed = [];
      interval = narrowed ?? interval;
      used.push(part.condition);
    }
    break;
  }
  const isLookup = used.length > 0 && interval === undefined && (fixed[0]?.length ?? 0) === keys.length;
  return { ranges: fixed.map((values) => ({ fixed: values, ...(interval !== undefined && { interval }) })), used, isLookup };
}

function whyUseless({ definition }: IndexStatistics, conditions: readonly KeyCondition[], order: readonly OrderKey[]): string {
  const first = definition.keys[0]!;
  const later = definition.keys.slice(1).some((key) => conditions.some(({ keyText }) => keyText === key.text));
  if (later) return `nothing is asked of its first key ${first.text}`;
  if (order.some(({ expression }) => keyTextOf(expression) === first.text)) return `its order is not the one asked for`;
  return `nothing is asked of ${first.text} that it could serve`;
}
