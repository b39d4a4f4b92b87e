import type { Json, Value } from '../../values/json.ts';
import type { WholeSum } from '../../values/wholeSums.ts';

/** What one measure gathers of all groups, which are numbered from 0 on. Only values that count are added. */
export interface Column {
  /** Makes room for so many groups. */
  grow(groups: number): void;
  add(group: number, value: Json): void;
  /** Adds what a finer group has kept. @param given its count, or its row with the place of the measure there */
  addKept?(group: number, given: Value, measure: number): void;
  /** A sum before it is rounded, of those that are sums. */
  wholeOf?(group: number): WholeSum;
  /** @param percentage of a percentile, 0 to 100 */
  result(group: number, percentage: number): Value;
  /** Bytes. */
  readonly held: number;
}

/** Bytes of a value that are the run's own, so that to hold it holds them. */
export type OwnedBy = (value: Json) => number;

/** What cannot be told as a number is nothing. */
export function finite(value: number): Value {
  return Number.isFinite(value) ? value : undefined;
}
