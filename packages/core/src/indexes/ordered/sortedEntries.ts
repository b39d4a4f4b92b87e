import type { Value } from '../../values/json.ts';
import { compareValues, type Direction } from '../../values/order.ts';
import { estimateBytes } from '../../values/size.ts';
import { compareToCut, type Interval } from './cuts.ts';
import type { KeyTuple } from './keyValues.ts';

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

/** Entries are kept in blocks of at most this many, so that one insertion moves few. */
const blockLimit = 1_024;

export interface Block {
  /** One column a key, so that an entry is no object of its own. */
  readonly keys: Value[][];
  readonly positions: number[];
}

/** Entries from `[block, offset]` on; the end is exclusive. */
interface Cursor {
  block: number;
  offset: number;
}

/**
 * Entries of keys and positions, sorted. Keys stand in the order of values, each in its direction; missing keys of an
 * entry come after null; entries of equal keys stand by position.
 */
export class SortedEntries {
  protected readonly signs: readonly (1 | -1)[];
  private readonly blocks: Block[] = [];
  /** For each key, how many entries have null there, and how many nothing. */
  private readonly nullKeys: number[];
  private readonly missingKeys: number[];
  protected keyBytes = 0;
  entries = 0;

  constructor(directions: readonly Direction[]) {
    this.signs = directions.map((direction) => (direction === 'desc' ? -1 : 1));
    this.nullKeys = directions.map(() => 0);
    this.missingKeys = directions.map(() => 0);
  }

  /**
   * Lays sorted entries down after those that are there; yields the share that is done between blocks.
   * @param order the rows of the columns, as their entries are to stand
   * @param look is shown each block with the one before it
   */
  protected *layDown(
    columns: readonly (readonly Value[])[],
    positions: readonly number[],
    order: Uint32Array,
    look: (block: Block, before: Block | undefined) => void,
  ): Generator<number> {
    const fillTo = blockLimit * 0.75;
    for (let from = 0; from < order.length; from += fillTo) {
      const to = Math.min(order.length, from + fillTo);
      const block = { keys: columns.map((column) => picked(column, order, from, to)), positions: picked(positions, order, from, to) };
      look(block, this.blocks[this.blocks.length - 1]);
      this.blocks.push(block);
      this.entries += to - from;
      block.keys.forEach((column, k) => {
        for (const value of column) this.account(k, value, 1);
      });
      if (this.blocks.length % 32 === 0) yield from / order.length;
    }
  }

  private account(key: number, value: Value, sign: 1 | -1): void {
    this.keyBytes += sign * (8 + estimateBytes(value));
    if (value === undefined) this.missingKeys[key] += sign;
    else if (value === null) this.nullKeys[key] += sign;
  }

  /** About how many different values the first keys have together, from a few blocks. */
  distinctEstimate(keyCount = 1): number {
    const step = Math.max(1, Math.floor(this.blocks.length / 8));
    let looked = 0;
    let different = 0;
    for (let i = 0; i < this.blocks.length; i += step) {
      const { keys, positions } = this.blocks[i];
      const columns = keys.slice(0, keyCount);
      looked += positions.length;
      for (let k = 0; k < positions.length; k++)
        if (k === 0 || columns.some((column) => compareValues(column[k - 1], column[k]) !== 0)) different++;
    }
    return looked === 0 ? 0 : Math.max(1, Math.round((different / looked) * this.entries));
  }

  /** How many entries have null at a key, and how many have nothing there. */
  emptyAt(key: number): EmptyEntries {
    return { nulls: this.nullKeys[key], missing: this.missingKeys[key] };
  }

  protected compareKeys(a: readonly Value[], b: readonly Value[]): number {
    for (let k = 0; k < this.signs.length; k++) {
      const order = compareValues(a[k], b[k]);
      if (order !== 0) return order * this.signs[k];
    }
    return 0;
  }

  protected take(position: number, tuple: KeyTuple): void {
    const { block, offset } = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i] - position);
    const found = this.blocks[block];
    if (found?.positions[offset] !== position) return;
    found.positions.splice(offset, 1);
    found.keys.forEach((column, k) => this.account(k, column.splice(offset, 1)[0], -1));
    if (found.positions.length === 0) this.blocks.splice(block, 1);
    this.entries--;
  }

  protected put(position: number, tuple: KeyTuple): void {
    this.entries++;
    tuple.forEach((value, k) => this.account(k, value, 1));
    const cursor = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i] - position);
    if (this.blocks.length === 0) {
      this.blocks.push({ keys: tuple.map((value) => [value]), positions: [position] });
      return;
    }
    // Past the end of all entries the last block takes it.
    const at = Math.min(cursor.block, this.blocks.length - 1);
    const block = this.blocks[at];
    const offset = cursor.block > at ? block.positions.length : cursor.offset;
    block.positions.splice(offset, 0, position);
    block.keys.forEach((column, k) => column.splice(offset, 0, tuple[k]));
    if (block.positions.length > blockLimit) this.split(at);
  }

  private split(at: number): void {
    const block = this.blocks[at];
    // Appends in key order are common: a full last block stays nearly full.
    const keep = at === this.blocks.length - 1 ? Math.floor(blockLimit * 0.9) : blockLimit >> 1;
    this.blocks.splice(at + 1, 0, { keys: block.keys.map((column) => column.splice(keep)), positions: block.positions.splice(keep) });
  }

  private compareEntry(keys: readonly Value[][], i: number, tuple: KeyTuple): number {
    for (let k = 0; k < tuple.length; k++) {
      const order = compareValues(keys[k][i], tuple[k]);
      if (order !== 0) return order * this.signs[k];
    }
    return 0;
  }

  /** The first entry for which `compare` is not below zero. */
  private seek(compare: (keys: readonly Value[][], i: number, positions: readonly number[]) => number): Cursor {
    let low = 0;
    let high = this.blocks.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      const { keys, positions } = this.blocks[middle];
      if (compare(keys, positions.length - 1, positions) < 0) low = middle + 1;
      else high = middle;
    }
    const block = this.blocks[low];
    if (block === undefined) return { block: low, offset: 0 };
    let from = 0;
    let to = block.positions.length;
    while (from < to) {
      const middle = (from + to) >> 1;
      if (compare(block.keys, middle, block.positions) < 0) from = middle + 1;
      else to = middle;
    }
    return { block: low, offset: from };
  }

  private bounds({ fixed, interval }: IndexRange): [Cursor, Cursor] {
    const sign = this.signs[fixed.length];
    const compareFixed = (keys: readonly Value[][], i: number) => this.compareEntry(keys, i, fixed);
    const first = interval && (sign > 0 ? interval.low : interval.high);
    const last = interval && (sign > 0 ? interval.high : interval.low);
    const start = this.seek(
      (keys, i) => compareFixed(keys, i) || (first === undefined ? 0 : sign * compareToCut(keys[fixed.length][i], first)),
    );
    // One past the range: the first entry that lies after it.
    const end = this.seek(
      (keys, i) => compareFixed(keys, i) || (last === undefined ? -1 : sign * compareToCut(keys[fixed.length][i], last)),
    );
    return [start, end];
  }

  /** Whether there is an entry of a document under its keys, found as a lookup finds it. */
  has(position: number, tuple: KeyTuple): boolean {
    const { block, offset } = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i] - position);
    const found = this.blocks[block];
    if (found?.positions[offset] !== position) return false;
    return this.compareKeys(tuple, found.keys.map((column) => column[offset])) === 0; // prettier-ignore
  }

  /** Each two entries that stand next to each other: their keys, and how they compare, by position where the keys tie. */
  *neighbours(): Generator<{ readonly before: readonly Value[]; readonly after: readonly Value[]; readonly order: number }> {
    let before: { keys: readonly Value[]; position: number } | undefined;
    for (const { keys, positions } of this.blocks) {
      for (let i = 0; i < positions.length; i++) {
        const after = { keys: keys.map((column) => column[i]), position: positions[i] };
        if (before !== undefined) {
          const order = this.compareKeys(before.keys, after.keys) || before.position - after.position;
          yield { before: before.keys, after: after.keys, order };
        }
        before = after;
      }
    }
  }

  /** How many entries a range has; exact, in time of the order of the number of blocks. */
  count(range: IndexRange): number {
    const [start, end] = this.bounds(range);
    if (start.block > end.block || (start.block === end.block && start.offset >= end.offset)) return 0;
    if (start.block === end.block) return end.offset - start.offset;
    let count = this.blocks[start.block].positions.length - start.offset + end.offset;
    for (let block = start.block + 1; block < end.block; block++) count += this.blocks[block].positions.length;
    return count;
  }

  /** The positions of a range in the order of the entries. */
  positionsOf(range: IndexRange): number[] {
    const found: number[] = [];
    const [start, end] = this.bounds(range);
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { positions } = this.blocks[block];
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      for (let i = from; i < to; i++) found.push(positions[i]);
    }
    return found;
  }

  /** The entry at a place of a range, counted from its first; undefined past its end. */
  entryAt(range: IndexRange, place: number): IndexEntry | undefined {
    const [start, end] = this.bounds(range);
    let left = place;
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { keys, positions } = this.blocks[block];
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      if (left < to - from) return { position: positions[from + left], keys: keys.map((column) => column[from + left]) };
      left -= Math.max(0, to - from);
    }
    return undefined;
  }

  /** The entries of a range in their order, a key a column. */
  columnsOf(range: IndexRange): { readonly positions: number[]; readonly keys: Value[][] } {
    const count = this.count(range);
    const found = { positions: new Array<number>(count), keys: this.signs.map(() => new Array<Value>(count)) };
    const [start, end] = this.bounds(range);
    let at = 0;
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { keys, positions } = this.blocks[block];
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      copyInto(found.positions, at, positions, from, to);
      for (let k = 0; k < keys.length; k++) copyInto(found.keys[k], at, keys[k], from, to);
      at += Math.max(0, to - from);
    }
    return found;
  }

  /**
   * The different values of the key after the fixed ones, in the order of the index. The end of each run of equal entries
   * is looked for in growing strides, so that few long runs cost little, and many short ones no more than a walk.
   */
  *runs(range: IndexRange): Generator<KeyRun> {
    const at = range.fixed.length;
    const [start, end] = this.bounds(range);
    let { block, offset } = start;
    const endOf = (one: number): number => (one === end.block ? end.offset : (this.blocks[one]?.positions.length ?? 0));
    const skipEnded = (): void => {
      while (block < this.blocks.length && block <= end.block && offset >= endOf(block)) {
        block++;
        offset = 0;
      }
    };
    for (skipEnded(); block <= end.block && offset < endOf(block); skipEnded()) {
      const { keys, positions } = this.blocks[block];
      const run = { value: keys[at][offset], first: positions[offset], count: 0 };
      for (let goesOn = true; goesOn;) {
        const to = runEnd(this.blocks[block].keys[at], offset, endOf(block), run.value);
        run.count += to - offset;
        offset = to;
        goesOn = to >= endOf(block);
        if (!goesOn) break;
        skipEnded();
        goesOn = block <= end.block && offset < endOf(block) && sameKey(this.blocks[block].keys[at][offset], run.value);
      }
      yield run;
    }
  }

  /** The same groups as `groups`, of whole entries. */
  *entryGroups(range: IndexRange, keyCount: number, backwards: boolean): Generator<readonly IndexEntry[]> {
    const [start, end] = this.bounds(range);
    let group: IndexEntry[] = [];
    for (const [block, i] of this.walk(start, end, backwards)) {
      const { keys, positions } = this.blocks[block];
      if (group.length > 0 && !this.ties(group[0].keys, keys, i, range.fixed.length, keyCount)) {
        yield group.sort((a, b) => a.position - b.position);
        group = [];
      }
      group.push({ position: positions[i], keys: keys.map((column) => column[i]) });
    }
    if (group.length > 0) yield group.sort((a, b) => a.position - b.position);
  }

  /**
   * Walks a range forwards or backwards in groups of entries that tie on the first `keyCount` keys, null and
   * missing tying as in an order; each group's positions ascend.
   */
  *groups(range: IndexRange, keyCount: number, backwards: boolean): Generator<readonly number[]> {
    const [start, end] = this.bounds(range);
    let group: number[] = [];
    let keysOfGroup: Value[] | undefined;
    for (const [block, i] of this.walk(start, end, backwards)) {
      const { keys, positions } = this.blocks[block];
      const same = keysOfGroup !== undefined && this.ties(keysOfGroup, keys, i, range.fixed.length, keyCount);
      if (!same) {
        if (group.length > 0) yield group.sort((a, b) => a - b);
        group = [];
        keysOfGroup = keys.map((column) => column[i]);
      }
      group.push(positions[i]);
    }
    if (group.length > 0) yield group.sort((a, b) => a - b);
  }

  private *walk(start: Cursor, end: Cursor, backwards: boolean): Generator<[number, number]> {
    const first = start.block;
    const last = Math.min(end.block, this.blocks.length - 1);
    for (let n = 0; n <= last - first; n++) {
      const block = backwards ? last - n : first + n;
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : this.blocks[block].positions.length;
      for (let m = 0; m < to - from; m++) yield [block, backwards ? to - 1 - m : from + m];
    }
  }

  private ties(group: readonly Value[], keys: readonly Value[][], i: number, from: number, to: number): boolean {
    for (let k = from; k < to; k++) {
      const a = group[k] ?? null;
      const b = keys[k][i] ?? null;
      if (a !== b && compareValues(a, b) !== 0) return false;
    }
    return true;
  }
}

function copyInto<T>(target: T[], at: number, source: readonly T[], from: number, to: number): void {
  for (let i = from; i < to; i++) target[at + i - from] = source[i];
}

function sameKey(a: Value, b: Value): boolean {
  return a === b || compareValues(a, b) === 0;
}

/** Where a run of equal values that begins at `from` ends, `to` at the latest. */
function runEnd(column: readonly Value[], from: number, to: number, value: Value): number {
  let known = from;
  let stride = 1;
  while (known + stride < to && sameKey(column[known + stride], value)) {
    known += stride;
    stride *= 2;
  }
  let end = Math.min(to, known + stride);
  for (let low = known + 1; low < end;) {
    const middle = (low + end) >> 1;
    if (sameKey(column[middle], value)) low = middle + 1;
    else end = middle;
  }
  return end;
}

/** Those of some values that a stretch of an order names. */
function picked<T>(values: readonly T[], order: Uint32Array, from: number, to: number): T[] {
  const taken: T[] = [];
  for (let i = from; i < to; i++) taken.push(values[order[i]]);
  return taken;
}
