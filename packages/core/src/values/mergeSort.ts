import type { Steps } from './steps.ts';

const runLength = 12;

/**
 * Sorts `rows[from, to)` by their codes, ascending and stable: bottom-up merges of short runs that were sorted by
 * insertion. `codes` are indexed by row. Yields the share that is done after each pass over the rows.
 */
export function* mergeSort(codes: Float64Array, rows: Uint32Array<ArrayBuffer>, from: number, to: number): Steps<void> {
  const length = to - from;
  let here: Keyed = { rows: rows.subarray(from, to), keys: new Float64Array(length) };
  for (let i = 0; i < length; i++) here.keys[i] = codes[here.rows[i]!]!;
  for (let at = 0; at < length; at += runLength) insertionSort(here.keys, here.rows, at, Math.min(at + runLength, length));
  if (length <= runLength) return;
  let other: Keyed = { rows: new Uint32Array(length), keys: new Float64Array(length) };
  const passes = Math.ceil(Math.log2(length / runLength)) + 1;
  for (let width = runLength, pass = 1; width < length; width *= 2, pass++) {
    yield pass / passes;
    for (let at = 0; at < length; at += 2 * width) {
      merge(here, other, at, Math.min(at + width, length), Math.min(at + 2 * width, length));
    }
    [here, other] = [other, here];
  }
  if (here.rows.buffer !== rows.buffer) rows.set(here.rows, from);
}

function insertionSort(keys: Float64Array, rows: Uint32Array, from: number, to: number): void {
  for (let i = from + 1; i < to; i++) {
    const key = keys[i]!;
    const row = rows[i]!;
    let j = i - 1;
    for (; j >= from && keys[j]! > key; j--) {
      keys[j + 1] = keys[j]!;
      rows[j + 1] = rows[j]!;
    }
    keys[j + 1] = key;
    rows[j + 1] = row;
  }
}

/** Rows, and beside each the code that it is sorted by. */
interface Keyed {
  readonly rows: Uint32Array<ArrayBuffer>;
  readonly keys: Float64Array<ArrayBuffer>;
}

function merge({ keys, rows }: Keyed, { keys: toKeys, rows: toRows }: Keyed, from: number, middle: number, to: number): void {
  // What is in order already is copied.
  if (middle >= to || keys[middle - 1]! <= keys[middle]!) {
    toKeys.set(keys.subarray(from, to), from);
    toRows.set(rows.subarray(from, to), from);
    return;
  }
  let left = from;
  let right = middle;
  for (let i = from; i < to; i++) {
    const takeLeft = left < middle && (right >= to || keys[left]! <= keys[right]!);
    const source = takeLeft ? left++ : right++;
    toKeys[i] = keys[source]!;
    toRows[i] = rows[source]!;
  }
}
