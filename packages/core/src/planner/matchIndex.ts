import { intersect, present, type Interval } from '../indexes/cuts.ts';
import type { IndexRange } from '../indexes/orderedIndex.ts';
import type { OrderKey } from '../language/stages/stage.ts';
import type { Value } from '../values/json.ts';
import { conjunctsOf, type Conjunct } from './conjuncts.ts';
import { keyTextOf, type KeyCondition } from './keyConditions.ts';
import type { OrderedWalk } from './physical.ts';
import type { IndexStatistics } from './statistics.ts';

/** How an index serves a question. */
export interface IndexMatch {
  readonly ranges: readonly IndexRange[];
  /** The conditions that the ranges stand for; those that need no second test. */
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
  readonly lookup: boolean;
  /** The order that it gives where the question asks for one and it can. */
  readonly ordered: OrderedWalk | undefined;
}

export interface NoMatch {
  readonly reason: string;
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
  if (where !== undefined) {
    const missing = conjunctsOf(where, 0).find(({ text }) => !conjuncts.some((conjunct) => conjunct.text === text));
    if (missing) return { reason: `it holds only documents for which ${missing.text}, which is not asked for` };
  }
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
    if (intervals.length === 0) break;
    // Conditions on an array may hold for different elements: only one of them bounds the entries.
    for (const part of key.several ? intervals.slice(0, 1) : intervals) {
      const narrowed: Interval | undefined = interval === undefined ? part.interval : intersect(interval, part.interval);
      if (narrowed === undefined) fixed = [];
      interval = narrowed ?? interval;
      used.push(part.condition);
    }
    break;
  }
  const fixedCount = fixed[0]?.length ?? 0;
  const ordered = servesOrder(statistics, order, fixed, fixedCount, interval, conditions);
  if (used.length === 0 && ordered === undefined && where === undefined) return { reason: whyUseless(statistics, conditions, order) };
  const hasSeveral = keys.some((key) => key.several);
  return {
    ranges: fixed.map((values) => ({ fixed: values, ...(interval !== undefined && { interval }) })),
    used: used.map(({ conjunct }) => conjunct),
    served: used.filter(({ exact }) => exact && !hasSeveral).map(({ conjunct }) => conjunct),
    lookup: used.length > 0 && interval === undefined && fixedCount === keys.length,
    ordered,
  };
}

function servesOrder(
  statistics: IndexStatistics,
  order: readonly OrderKey[],
  fixed: readonly Value[][],
  fixedCount: number,
  interval: Interval | undefined,
  conditions: readonly KeyCondition[],
): OrderedWalk | undefined {
  const { keys, where } = statistics.definition;
  // Keys that one value is asked of do not order anything.
  const isFixed = (text: string) =>
    conditions.some(({ keyText, asks }) => keyText === text && asks.kind === 'points' && asks.points.length === 1);
  const wanted = order.filter(({ expression }) => !isFixed(keyTextOf(expression)));
  if (wanted.length === 0 || fixed.length !== 1 || keys.some((key) => key.several)) return undefined;
  const rest = keys.slice(fixedCount, fixedCount + wanted.length);
  if (rest.length < wanted.length || rest.some((key, i) => key.text !== keyTextOf(wanted[i].expression))) return undefined;
  const backwards = rest[0].direction !== wanted[0].direction;
  if (rest.some((key, i) => (key.direction !== wanted[i].direction) !== backwards)) return undefined;
  // Beyond the first key, null and missing stand where the index has them: last ascending, first descending.
  const misplaced = rest.some(
    (_, i) => i > 0 && statistics.emptyAt(fixedCount + i) > 0 && (wanted[i].direction === 'asc' ? 'last' : 'first') !== wanted[i].nulls,
  );
  if (misplaced) return undefined;
  const nulls = wanted.map((key) => key.nulls);
  const keyCount = fixedCount + wanted.length;
  if (interval !== undefined && interval !== present) return { keyCount, backwards, empties: undefined, nulls };
  const empties = statistics.emptyAt(fixedCount) + (fixedCount === 0 ? statistics.absent : 0);
  if (fixedCount === 0 && where !== undefined && statistics.absent > 0) return undefined;
  return { keyCount, backwards, empties: empties > 0 ? wanted[0].nulls : undefined, nulls };
}

function whyUseless({ definition }: IndexStatistics, conditions: readonly KeyCondition[], order: readonly OrderKey[]): string {
  const [first] = definition.keys;
  const later = definition.keys.slice(1).some((key) => conditions.some(({ keyText }) => keyText === key.text));
  if (later) return `nothing is asked of its first key ${first.text}`;
  if (order.some(({ expression }) => keyTextOf(expression) === first.text)) return `its order is not the one asked for`;
  return `nothing is asked of ${first.text} that it could serve`;
}
