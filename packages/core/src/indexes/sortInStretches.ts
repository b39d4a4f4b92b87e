import type { Value } from '../values/json.ts';
import { compareValues, needsCodePoints, type Direction } from '../values/order.ts';
import { stableOrder } from '../values/stableOrder.ts';

/** Entries that are sorted at once, or merged, before others get their turn: some tens of milliseconds of work. */
const stretch = 65_536;

/**
 * The order of an index's entries: by their keys, each in its direction, null before missing where it ascends; entries of
 * equal keys stay as they are. Sorts stretches and merges them, and yields the share that is done between steps.
 * @param columns the keys, a key a column
 */
export function* sortInStretches(
  columns: readonly (readonly Value[])[],
  directions: readonly Direction[],
  length: number,
): Generator<number, Uint32Array> {
  /** Columns without a text that takes a look at code points to be compared. */
  const plain = columns.map(() => true);
  const compare = comparison(columns, directions, plain);
  let runs: Uint32Array[] = [];
  const passes = 1 + Math.ceil(Math.log2(Math.max(1, length / stretch)));
  let done = 0;
  for (let from = 0; from < length; from += stretch) {
    const to = Math.min(length, from + stretch);
    columns.forEach((column, k) => (plain[k] &&= isPlain(column, from, to)));
    const run = sortedStretch(columns, directions, from, to, compare);
    runs.push(run);
    done += run.length;
    yield done / (length * passes);
  }
  while (runs.length > 1) {
    const next: Uint32Array[] = [];
    for (let i = 0; i < runs.length; i += 2) {
      if (i + 1 === runs.length) next.push(runs[i]);
      else next.push(yield* merge(runs[i], runs[i + 1], compare, (taken) => Math.min(1, (done += taken) / (length * passes))));
    }
    runs = next;
  }
  return runs[0] ?? new Uint32Array();
}

type Compare = (a: number, b: number) => number;

function isPlain(column: readonly Value[], from: number, to: number): boolean {
  for (let i = from; i < to; i++) {
    const value = column[i];
    if (typeof value === 'string' && needsCodePoints(value)) return false;
  }
  return true;
}

function comparison(columns: readonly (readonly Value[])[], directions: readonly Direction[], plain: readonly boolean[]): Compare {
  const signs = directions.map((direction) => (direction === 'desc' ? -1 : 1));
  return (a, b) => {
    for (let k = 0; k < columns.length; k++) {
      const x = columns[k][a];
      const y = columns[k][b];
      if (x === y) continue;
      const order = plain[k] && typeof x === 'string' && typeof y === 'string' ? (x < y ? -1 : 1) : compareValues(x, y);
      if (order !== 0) return order * signs[k];
    }
    return 0;
  };
}

function sortedStretch(
  columns: readonly (readonly Value[])[],
  directions: readonly Direction[],
  from: number,
  to: number,
  compare: Compare,
): Uint32Array {
  const parts = columns.map((column) => column.slice(from, to));
  const order = stableOrder(
    directions.map((direction, k) => ({ values: parts[k], direction, nulls: direction === 'desc' ? 'first' : 'last' })),
    to - from,
  );
  for (let i = 0; i < order.length; i++) order[i] += from;
  // That order lets null and missing tie, which an index keeps apart.
  if (parts.some((part) => part.includes(undefined) && part.includes(null))) order.sort((a, b) => compare(a, b) || a - b);
  return order;
}

/** Merges two runs, the first one's entries first where keys are equal; yields what is told of so many entries taken. */
function* merge(a: Uint32Array, b: Uint32Array, compare: Compare, told: (taken: number) => number): Generator<number, Uint32Array> {
  const merged = new Uint32Array(a.length + b.length);
  // What is in order already is copied.
  if (compare(a[a.length - 1], b[0]) <= 0) {
    merged.set(a);
    merged.set(b, a.length);
    yield told(merged.length);
    return merged;
  }
  let left = 0;
  let right = 0;
  for (let i = 0; i < merged.length; i++) {
    const takeLeft = left < a.length && (right >= b.length || compare(a[left], b[right]) <= 0);
    merged[i] = takeLeft ? a[left++] : b[right++];
    if (i % stretch === stretch - 1) yield told(stretch);
  }
  yield told(merged.length % stretch);
  return merged;
}
