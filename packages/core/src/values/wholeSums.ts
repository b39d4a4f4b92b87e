import type { Json } from './json.ts';

/**
 * A sum as it was before it was rounded, and of how many numbers it is: two doubles, and what does not fit into them as a whole
 * number of 2^-1074. It is put together with others without error.
 */
export type WholeSum = readonly [count: number, high: number, low: number, rest?: string];

const kept = Symbol('sums before they were rounded');

/** Keeps with the row of a group what its sums were, by the place of each among the measures; it is no field of the row. */
export function keepWholeSums(row: Json, sums: readonly (WholeSum | null)[]): void {
  Object.defineProperty(row, kept, { value: sums, enumerable: false });
}

/** What was kept with the row of a group; undefined where nothing was. */
export function wholeSumsOf(row: Json): readonly (WholeSum | null)[] | undefined {
  return (row as { readonly [kept]?: readonly (WholeSum | null)[] })[kept];
}

/** One of those. @throws Error where it was not kept: a sum of rounded ones would be another */
export function wholeSumOf(row: Json, measure: number): WholeSum {
  const sum = wholeSumsOf(row)?.[measure];
  if (sum == null) throw new Error(`the sum of measure ${measure} was not kept whole`);
  return sum;
}
