import type { JsonObject } from '../values/json.ts';

/** The documents of a collection as the operators read them. A position never moves; a removed document leaves a hole. */
export interface DocumentStore {
  /** By position, in insertion order. */
  readonly documents: readonly (JsonObject | undefined)[];
  /** How many documents there are, holes not counted. */
  readonly count: number;
  /** Grows with every change. */
  readonly version: number;
}
