import type { Value } from '../../values/json.ts';
import { compareText, compareValues, orderRank } from '../../values/order.ts';

/** A place between values in their total order, which every value lies before or after. */
export type Cut =
  | { readonly at: 'value'; readonly value: Value; readonly side: 'before' | 'after' }
  /** Before all values of a rank of `orderRank`. */
  | { readonly at: 'rank'; readonly rank: number }
  /** After every text that begins with a prefix. */
  | { readonly at: 'prefixEnd'; readonly prefix: string };

export interface Interval {
  readonly low: Cut;
  readonly high: Cut;
}

/** Below zero where the value lies before the cut, above zero where it lies after it. */
export function compareToCut(value: Value, cut: Cut): number {
  switch (cut.at) {
    case 'value': {
      const order = compareValues(value, cut.value);
      return order !== 0 ? order : cut.side === 'before' ? 1 : -1;
    }
    case 'rank':
      return orderRank(value) < cut.rank ? -1 : 1;
    case 'prefixEnd':
      if (typeof value !== 'string') return orderRank(value) - 3;
      return value.startsWith(cut.prefix) ? -1 : compareText(value, cut.prefix);
  }
}

export function exactly(value: Value): Interval {
  return { low: { at: 'value', value, side: 'before' }, high: { at: 'value', value, side: 'after' } };
}

/** All values that are there, null among them. */
export const present: Interval = { low: { at: 'rank', rank: 0 }, high: { at: 'rank', rank: 7 } };

/** Null, and what is not there: an order has a place for both of them. */
export const nulls: Interval = { low: { at: 'rank', rank: 6 }, high: { at: 'rank', rank: 7 } };
export const missing: Interval = { low: nulls.high, high: { at: 'rank', rank: 8 } };
export const empty: Interval = { low: nulls.low, high: missing.high };
/** All values but null. */
export const valued: Interval = { low: { at: 'rank', rank: 0 }, high: nulls.low };

/** The texts that begin with a prefix. */
export function beginningWith(prefix: string): Interval {
  return { low: { at: 'value', value: prefix, side: 'before' }, high: { at: 'prefixEnd', prefix } };
}

/**
 * The values for which `value operator bound` holds. `<` compares numbers with numbers and texts with texts
 * alone; `<=` is `<` or `==`, so of other types it holds for equal values.
 */
export function comparedTo(operator: '<' | '<=' | '>' | '>=', bound: Value): Interval | undefined {
  const rank = orderRank(bound);
  const inclusive = operator === '<=' || operator === '>=';
  if (rank !== 2 && rank !== 3) return inclusive ? exactly(bound) : undefined;
  if (operator === '<' || operator === '<=') {
    return { low: { at: 'rank', rank }, high: { at: 'value', value: bound, side: inclusive ? 'after' : 'before' } };
  }
  return { low: { at: 'value', value: bound, side: inclusive ? 'before' : 'after' }, high: { at: 'rank', rank: rank + 1 } };
}

export function compareCuts(a: Cut, b: Cut): number {
  // Every cut but a rank stands right beside some value; comparing that value with the other cut decides.
  if (a.at === 'rank' && b.at === 'rank') return a.rank - b.rank;
  if (a.at === 'rank') return -compareCuts(b, a);
  const value = a.at === 'value' ? a.value : a.prefix;
  if (a.at === 'prefixEnd') {
    if (b.at === 'prefixEnd')
      return a.prefix.startsWith(b.prefix)
        ? a.prefix === b.prefix
          ? 0
          : -1
        : b.prefix.startsWith(a.prefix)
          ? 1
          : compareText(a.prefix, b.prefix);
    if (b.at === 'rank') return compareToCut(value, b);
    if (typeof b.value === 'string' && b.value.startsWith(a.prefix)) return 1;
    return compareToCut(value, b);
  }
  if (b.at === 'prefixEnd') return -compareCuts(b, a);
  if (b.at === 'rank') return compareToCut(value, b);
  const order = compareValues(a.value, b.value);
  return order !== 0 ? order : a.side === b.side ? 0 : a.side === 'before' ? -1 : 1;
}

/** What two intervals share; undefined where that is nothing. */
export function intersect(a: Interval, b: Interval): Interval | undefined {
  const low = compareCuts(a.low, b.low) >= 0 ? a.low : b.low;
  const high = compareCuts(a.high, b.high) <= 0 ? a.high : b.high;
  return compareCuts(low, high) < 0 ? { low, high } : undefined;
}
