import { compileValue, type Evaluate } from '../expressions/compile.ts';
import type { OrderKey } from '../language/stages/stage.ts';
import type { Value } from '../values/json.ts';
import { compareInOrder, type NullsPlace } from '../values/order.ts';

/** The keys of an order, ready to be taken from rows. */
export class OrderReader {
  readonly keys: readonly OrderKey[];
  readonly evaluators: readonly Evaluate[];

  private readonly signs: readonly (1 | -1)[];
  private readonly nulls: readonly NullsPlace[];

  constructor(keys: readonly OrderKey[]) {
    this.keys = keys;
    this.signs = keys.map(({ direction }) => (direction === 'desc' ? -1 : 1));
    this.nulls = keys.map((key) => key.nulls);
    this.evaluators = keys.map(({ expression }) => compileValue(expression));
  }

  /** How two values of one key stand to each other in the order; null and missing tie. */
  compare(key: number, a: Value, b: Value): number {
    return compareInOrder(a, b, this.signs[key]!, this.nulls[key]!);
  }
}

/** What a sort holds for one row beside its keys: a reference and a position in lists that grow, and its place in order. */
export const heldPerRow = 24;
/** And while it sorts: a code, and a code and a place on either side of a merge. */
export const heldWhileSorting = 32;

/** What one key holds: a reference in a list that grows. */
export const heldPerKey = 10;

/** Ties go by insertion order. Rows that come in it need no further key; others, from an order before, do. */
export function isAscending(positions: readonly number[]): boolean {
  for (let i = 1; i < positions.length; i++) if (positions[i]! < positions[i - 1]!) return false;
  return true;
}

export function byPosition(positions: readonly number[]): { values: Value[]; direction: OrderKey['direction']; nulls: OrderKey['nulls'] } {
  return { values: [...positions], direction: 'asc', nulls: 'last' };
}
