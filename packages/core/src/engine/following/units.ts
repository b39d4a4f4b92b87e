import type { Json, JsonObject } from '../../values/json.ts';

/** Documents whose rows may have changed. */
export interface Touched {
  readonly positions: ReadonlySet<number>;
  /** What each was when the rows were last brought up; undefined where what they met has changed too. */
  readonly before: ReadonlyMap<number, JsonObject | undefined> | undefined;
}

/** Rows of units that may have others now, in their order; none for one that has gone. */
export interface UnitRows {
  readonly rows: ReadonlyMap<number, readonly Json[]>;
  /** Whether the units stand in the order in which they stood. */
  readonly isInOrder: boolean;
}

/** What rows belong to: a document, or a group of documents. It is changed as a whole. */
export interface Units {
  /** Takes up what has changed. @throws CannotFollow */
  update(touched: Touched): UnitRows;
  /** All units in the order of their rows. */
  order(): readonly number[];
}

/** What keeps rows from following; they are worked out afresh. */
export class CannotFollow extends Error {}
