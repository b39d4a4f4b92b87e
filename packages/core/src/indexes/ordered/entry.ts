import type { Value } from '../../values/json.ts';
import type { Interval } from './cuts.ts';

/** A stretch of an index: fixed values of the leading keys, then perhaps an interval of the next. */
export interface IndexRange {
  readonly fixed: readonly Value[];
  readonly interval?: Interval;
}

/** Entries without a value at a key. */
export interface EmptyEntries {
  readonly nulls: number;
  readonly missing: number;
}

/** One entry: its keys, and the position of its document. */
export interface IndexEntry {
  readonly position: number;
  readonly keys: readonly Value[];
}

/** A value of a key: how many entries have it, and the position of the first of them. */
export interface KeyRun {
  readonly value: Value;
  readonly count: number;
  readonly first: number;
}
