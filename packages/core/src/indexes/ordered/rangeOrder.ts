import { equalValues } from '../../values/equality.ts';
import { compareCuts, exactly, intersect, type Interval } from './cuts.ts';
import type { Direction } from '../../values/order.ts';
import type { IndexRange } from './sortedEntries.ts';

/** Ranges of one index that share no entry, in the order in which its entries stand. */
export interface RangesInTurn {
  readonly ranges: readonly IndexRange[];
  /** How many leading keys have one and the same fixed value in all of them. */
  readonly sharedKeys: number;
  /** The last key (0-based) by which a range stands apart from its neighbour; below 0 where there is one range alone. */
  readonly partedBy: number;
}

/**
 * Puts ranges in the order of the index.
 * @param directions of the index's keys
 * @returns undefined where two of them share entries, so that no order of ranges is that of the entries
 */
export function rangesInTurn(ranges: readonly IndexRange[], directions: readonly Direction[]): RangesInTurn | undefined {
  let overlap = false;
  let partedBy = -1;
  let sharedKeys = ranges.length === 1 ? ranges[0]!.fixed.length : Infinity;
  const sorted = [...ranges].sort((a, b) => {
    const found = compareRanges(a, b, directions);
    if (found === undefined) overlap = true;
    return found?.order ?? 0;
  });
  if (overlap) return undefined;
  for (let i = 1; i < sorted.length; i++) {
    // A sort has compared all neighbours, so that none of them overlap.
    const key = compareRanges(sorted[i - 1]!, sorted[i]!, directions)?.key ?? 0;
    partedBy = Math.max(partedBy, key);
    sharedKeys = Math.min(sharedKeys, key);
  }
  return { ranges: sorted, sharedKeys, partedBy };
}

/** By the first key at which they stand apart; undefined where they do not. */
function compareRanges(a: IndexRange, b: IndexRange, directions: readonly Direction[]): { order: number; key: number } | undefined {
  for (let key = 0; key < directions.length; key++) {
    if (key < a.fixed.length && key < b.fixed.length && equalValues(a.fixed[key], b.fixed[key])) continue;
    const [left, right] = [boundsAt(a, key), boundsAt(b, key)];
    if (left === undefined || right === undefined || intersect(left, right) !== undefined) return undefined;
    return { order: compareCuts(left.low, right.low) * (directions[key] === 'desc' ? -1 : 1), key };
  }
  return undefined;
}

/** The values that a range has at a key; undefined where they may be any. */
export function boundsAt({ fixed, interval }: IndexRange, key: number): Interval | undefined {
  if (key < fixed.length) return exactly(fixed[key]);
  return key === fixed.length ? interval : undefined;
}
