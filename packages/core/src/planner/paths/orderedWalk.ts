import { empty, intersect, missing, nulls, valued, type Interval } from '../../indexes/ordered/cuts.ts';
import type { IndexRange } from '../../indexes/ordered/sortedEntries.ts';
import { boundsAt, rangesInTurn } from '../../indexes/ordered/rangeOrder.ts';
import type { OrderKey } from '../../language/stages/stage.ts';
import type { Direction, NullsPlace } from '../../values/order.ts';
import { keyTextOf, type KeyCondition } from './keyConditions.ts';
import type { OrderedWalk, WalkedEmpties } from '../physical.ts';
import type { IndexStatistics } from '../statistics.ts';

/** More ranges than this are not merged: each has a place in the index of its own, and all are looked at for each entry. */
const mostMerged = 64;

/** Of the order's first key: what is asked for beside the ranges, in words of its values. */
export interface AskedEmpties {
  readonly nulls: boolean;
  readonly missing: boolean;
}

/** Where an index that is read in the direction has null and missing, as its entries stand. */
function naturalPlace(direction: Direction): NullsPlace {
  return direction === 'asc' ? 'last' : 'first';
}

/** The keys of an order that still order something: not those that one value is asked of. */
export function orderLeft(order: readonly OrderKey[], conditions: readonly KeyCondition[]): readonly OrderKey[] {
  const isFixed = (text: string) =>
    conditions.some(({ keyText, asks }) => keyText === text && asks.kind === 'points' && asks.points.length === 1);
  return order.filter(({ expression }) => !isFixed(keyTextOf(expression)));
}

/** The walk that gives the most leading keys of an order; rows that tie on them are left to be sorted by the others. */
export function longestWalk(
  statistics: IndexStatistics,
  ranges: readonly IndexRange[],
  wanted: readonly OrderKey[],
  beside?: AskedEmpties,
): OrderedWalk | undefined {
  for (let count = wanted.length; count > 0; count--) {
    const walk = orderedWalk(statistics, ranges, wanted.slice(0, count), beside);
    if (walk !== undefined) return { ...walk, left: wanted.slice(count) };
  }
  return undefined;
}

/**
 * How ranges of an index are walked so that their entries come in an order: one after another where they lie so, or
 * merged. Undefined where no walk of the index gives it.
 * @param wanted the keys of the order that are not fixed
 * @param beside null and missing that are asked for beside the ranges
 */
function orderedWalk(
  statistics: IndexStatistics,
  ranges: readonly IndexRange[],
  wanted: readonly OrderKey[],
  beside?: AskedEmpties,
): OrderedWalk | undefined {
  const { keys } = statistics.definition;
  if (wanted.length === 0 || ranges.length === 0 || keys.some((key) => key.several)) return undefined;
  const start = keys.findIndex(({ text }) => text === keyTextOf(wanted[0]!.expression));
  const end = start + wanted.length;
  if (start < 0 || end > keys.length || ranges.some(({ fixed }) => fixed.length < start)) return undefined;
  const own = keys.slice(start, end);
  if (own.some(({ text }, i) => text !== keyTextOf(wanted[i]!.expression))) return undefined;
  const backwards = own[0]!.direction !== wanted[0]!.direction;
  if (own.some(({ direction }, i) => (direction !== wanted[i]!.direction) !== backwards)) return undefined;
  if (misplacesEmpties(statistics, start, wanted)) return undefined;

  const laid = rangesInTurn(
    ranges,
    keys.map(({ direction }) => direction),
  );
  if (laid === undefined) return undefined;
  const together = laid.sharedKeys >= start && laid.partedBy < end ? 'in turn' : 'merged';
  if (together === 'merged' && (laid.ranges.length > mostMerged || beside !== undefined)) return undefined;
  const empties = emptiesOf(statistics, laid.ranges, start, wanted[0]!, beside);
  if (empties === 'misplaced') return undefined;
  const common = { start, end, backwards, together, empties, nulls: wanted.map((key) => key.nulls), given: wanted, left: [] } as const;
  return { ...common, ranges: empties === undefined ? laid.ranges : laid.ranges.flatMap((range) => withoutEmpty(range, start)) };
}

/**
 * Beyond the order's first key, null and missing stand where the index has them; and where both are there, the keys
 * after them begin anew, though they tie in an order.
 */
function misplacesEmpties(statistics: IndexStatistics, start: number, wanted: readonly OrderKey[]): boolean {
  return wanted.some(({ direction, nulls: place }, i) => {
    if (i === 0) return false;
    const found = statistics.emptyAt(start + i);
    if (found.nulls + found.missing > 0 && naturalPlace(direction) !== place) return true;
    return found.nulls > 0 && found.missing > 0 && i < wanted.length - 1;
  });
}

/** What of null and missing at the order's first key has to be walked apart from the ranges. */
function emptiesOf(
  statistics: IndexStatistics,
  ranges: readonly IndexRange[],
  start: number,
  { direction, nulls: place }: OrderKey,
  beside: AskedEmpties | undefined,
): WalkedEmpties | undefined | 'misplaced' {
  const fixed = ranges[0]!.fixed.slice(0, start);
  const anyHolds = (some: Interval) => ranges.some((range) => intersect(boundsAt(range, start) ?? everything, some) !== undefined);
  if (beside !== undefined) {
    if (anyHolds(empty)) return 'misplaced';
    return { place, range: { fixed, interval: intervalOf(beside) }, withAbsent: beside.missing && start === 0 };
  }
  const found = statistics.emptyAt(start);
  const absent = start === 0 ? statistics.absent : 0;
  // Counts of the whole index: what is nowhere is not in its ranges either.
  const holds: AskedEmpties = { nulls: found.nulls > 0 && anyHolds(nulls), missing: found.missing + absent > 0 && anyHolds(missing) };
  if (!holds.nulls && !holds.missing) return undefined;
  // Null alone or missing alone, without a value beside it, ties with itself.
  if (ranges.length === 1 && !anyHolds(valued) && !(holds.nulls && holds.missing)) return undefined;
  if (ranges.length > 1) {
    // Points of null stand where the index has them; what may be missing ties with them, and stands apart.
    return holds.missing || naturalPlace(direction) !== place ? 'misplaced' : undefined;
  }
  const withAbsent = holds.missing && absent > 0;
  if (withAbsent && statistics.definition.where !== undefined) return 'misplaced';
  return { place, range: { fixed, interval: intervalOf(holds) }, withAbsent };
}

const everything: Interval = { low: valued.low, high: missing.high };

function intervalOf({ nulls: withNulls, missing: withMissing }: AskedEmpties): Interval {
  if (withNulls && withMissing) return empty;
  return withMissing ? missing : nulls;
}

/** What a range has of values at a key, without null and missing. */
function withoutEmpty(range: IndexRange, key: number): IndexRange[] {
  if (range.fixed.length > key) return [range];
  const interval = range.interval === undefined ? valued : intersect(range.interval, valued);
  return interval === undefined ? [] : [{ fixed: range.fixed, interval }];
}
