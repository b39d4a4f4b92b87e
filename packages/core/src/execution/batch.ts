import type { Json } from '../values/json.ts';

/**
 * Some rows on their way from one operator to the next. An empty batch says that an operator is still at work,
 * so that the run can be paused, cancelled or stopped while it is.
 */
export interface Batch {
  readonly rows: readonly Json[];
  /** The positions of the documents that the rows come from, side by side with them. */
  readonly positions: readonly number[];
  /** Bytes of the rows that are the run's own, where that has been counted already. */
  readonly bytes?: number;
  /** How many rows have gone straight to the result instead. */
  readonly left?: number;
  /** Where an index gives an order: that no row which is still to come ties with those so far. */
  readonly endsTie?: boolean;
}

export const stillWorking: Batch = { rows: [], positions: [] };

export type Rows = Generator<Batch, void, void>;
