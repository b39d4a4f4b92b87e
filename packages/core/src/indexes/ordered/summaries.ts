import type { Value } from '../../values/json.ts';
import { intersect, type Interval } from './cuts.ts';
import type { OrderedIndex } from './orderedIndex.ts';
import type { IndexRange } from './sortedEntries.ts';

/** All values but null and missing. */
export const valued: Interval = { low: { at: 'rank', rank: 0 }, high: { at: 'rank', rank: 6 } };

/** A range with only the entries whose next key has a value; undefined where there is none. */
function withValue({ fixed, interval }: IndexRange): IndexRange | undefined {
  const narrowed = interval === undefined ? valued : intersect(interval, valued);
  return narrowed && { fixed, interval: narrowed };
}

/** The least and the greatest value of the key after the fixed ones, null and missing passed over. Two lookups. */
export function extremes(index: OrderedIndex, range: IndexRange): { readonly least: Value; readonly greatest: Value } {
  // Where all keys are fixed there is none left.
  const region = range.fixed.length < index.definition.keys.length ? withValue(range) : undefined;
  const count = region === undefined ? 0 : index.count(region);
  if (region === undefined || count === 0) return { least: undefined, greatest: undefined };
  const at = range.fixed.length;
  const ends = [0, count - 1].map((place) => firstOfEqual(index, range.fixed, index.entryAt(region, place)?.keys[at]));
  const [least, greatest] = index.definition.keys[at]!.direction === 'desc' ? ends.reverse() : ends;
  return { least, greatest };
}

/** Of values that are equal and may be written otherwise (`{a, b}`, `{b, a}`) that of the first document. */
function firstOfEqual(index: OrderedIndex, fixed: readonly Value[], value: Value): Value {
  if (typeof value !== 'object' || value === null) return value;
  const { positions, keys } = index.columnsOf({ fixed: [...fixed, value] });
  let first = 0;
  for (let i = 1; i < positions.length; i++) if (positions[i]! < positions[first]!) first = i;
  return keys[fixed.length]![first];
}

/** What an index knows of the values of its first key. */
export interface IndexSummary {
  readonly entries: number;
  /** Documents that have no entry, of those that the index covers. */
  readonly absent: number;
  /** Different values, estimated. */
  readonly distinct: number;
  readonly least: Value;
  readonly greatest: Value;
  /** The values that stand at equal steps through the entries, from the first to the last. */
  readonly quantiles: readonly Value[];
  readonly common: readonly { readonly value: Value; readonly count: number }[];
}

const quantileCount = 10;
const entriesLookedAt = 400;
const commonShown = 6;

/** Sums an index up in a few hundred lookups, however large it is. */
export function summaryOf(index: OrderedIndex): IndexSummary {
  const everything: IndexRange = { fixed: [] };
  const { entries } = index;
  const seen = new Map<string, Value>();
  const step = Math.max(1, Math.floor(entries / entriesLookedAt));
  for (let place = 0; place < entries; place += step) {
    const value = index.entryAt(everything, place)?.keys[0];
    if (value !== undefined) seen.set(JSON.stringify(value), value);
  }
  const common = [...seen.values()]
    .map((value) => ({ value, count: index.count({ fixed: [value] }) }))
    .sort((a, b) => b.count - a.count)
    .filter(({ count }) => count > 1)
    .slice(0, commonShown);
  const quantiles = Array.from({ length: quantileCount + 1 }, (_, i) =>
    index.entryAt(everything, Math.min(entries - 1, Math.round((i * (entries - 1)) / quantileCount))),
  ).flatMap((entry) => (entry === undefined ? [] : [entry.keys[0]]));
  return { entries, absent: index.absent.length, distinct: index.distinctEstimate(), ...extremes(index, everything), quantiles, common };
}
