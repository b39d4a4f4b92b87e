import { compileValue, type Evaluate } from '../expressions/compile.ts';
import type { OrderKey } from '../language/stages/stage.ts';
import type { Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { estimateBytes } from '../values/size.ts';

/** The keys of an order, ready to be taken from rows. */
export class OrderReader {
  readonly keys: readonly OrderKey[];
  readonly evaluators: readonly Evaluate[];

  constructor(keys: readonly OrderKey[]) {
    this.keys = keys;
    this.evaluators = keys.map(({ expression }) => compileValue(expression));
  }

  /** How two values of one key stand to each other in the order; null and missing tie. */
  compare(key: number, a: Value, b: Value): number {
    const emptyA = a === undefined || a === null;
    const emptyB = b === undefined || b === null;
    const { direction, nulls } = this.keys[key];
    if (emptyA || emptyB) return emptyA === emptyB ? 0 : emptyA === (nulls === 'first') ? -1 : 1;
    const order = compareValues(a, b);
    return direction === 'desc' ? -order : order;
  }
}

/** What a sort holds for one row beside its keys: a reference, a position and, while two are merged, two places in order. */
export const heldPerRow = 24;

/** What one key holds: a reference or a number. A computed text is held as well, a document's own is not. */
export function heldByKey(value: Value, computed: boolean): number {
  return computed && typeof value === 'string' ? 8 + estimateBytes(value) : 8;
}

/** Ties go by insertion order. Rows that come in it need no further key; others, from an order before, do. */
export function isAscending(positions: readonly number[]): boolean {
  for (let i = 1; i < positions.length; i++) if (positions[i] < positions[i - 1]) return false;
  return true;
}

export function byPosition(positions: readonly number[]): { values: Value[]; direction: OrderKey['direction']; nulls: OrderKey['nulls'] } {
  return { values: [...positions], direction: 'asc', nulls: 'last' };
}
