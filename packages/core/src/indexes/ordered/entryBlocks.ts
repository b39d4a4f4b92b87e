import type { Value } from '../../values/json.ts';
import { compareValues, type Direction } from '../../values/order.ts';
import { estimateBytes } from '../../values/size.ts';
import { compareToCut } from './cuts.ts';
import type { EmptyEntries, IndexRange } from './entry.ts';
import type { KeyTuple } from './keyValues.ts';

/** An estimate stands until such a share of the entries has come or gone. */
const estimateDrift = 0.05;

/** Entries are kept in blocks of at most this many, so that one insertion moves few. */
const blockLimit = 1_024;

export interface Block {
  /** One column a key, so that an entry is no object of its own. */
  readonly keys: Value[][];
  readonly positions: number[];
}

/** Entries from `[block, offset]` on; the end is exclusive. */
export interface Cursor {
  block: number;
  offset: number;
}

/**
 * Entries of keys and positions, sorted, in blocks: where each stands, put in and taken out. Keys stand in the order of values, each in its direction; missing keys of an
 * entry come after null; entries of equal keys stand by position.
 */
export class EntryBlocks {
  protected readonly signs: readonly (1 | -1)[];
  protected readonly blocks: Block[] = [];
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
    if (value === undefined) this.missingKeys[key]! += sign;
    else if (value === null) this.nullKeys[key]! += sign;
  }

  /** About how many different values the first keys have together, from a few blocks; looked at again once many entries have come or gone. */
  distinctEstimate(keyCount = 1): number {
    const known = this.estimates.get(keyCount);
    const share =
      known !== undefined && Math.abs(this.entries - known.entries) < known.entries * estimateDrift
        ? known.share
        : this.distinctShare(keyCount);
    if (share !== known?.share) this.estimates.set(keyCount, { share, entries: this.entries });
    return this.entries === 0 ? 0 : Math.max(1, Math.round(share * this.entries));
  }

  /** Every plan of a join asks. */
  private readonly estimates = new Map<number, { readonly share: number; readonly entries: number }>();

  /** Different values for each entry, 0 to 1. */
  private distinctShare(keyCount: number): number {
    const step = Math.max(1, Math.floor(this.blocks.length / 8));
    let looked = 0;
    let different = 0;
    for (let i = 0; i < this.blocks.length; i += step) {
      const { keys, positions } = this.blocks[i]!;
      const columns = keys.slice(0, keyCount);
      looked += positions.length;
      for (let k = 0; k < positions.length; k++)
        if (k === 0 || columns.some((column) => compareValues(column[k - 1], column[k]) !== 0)) different++;
    }
    return looked === 0 ? 0 : different / looked;
  }

  /** How many entries have null at a key, and how many have nothing there. */
  emptyAt(key: number): EmptyEntries {
    return { nulls: this.nullKeys[key]!, missing: this.missingKeys[key]! };
  }

  protected compareKeys(a: readonly Value[], b: readonly Value[]): number {
    for (let k = 0; k < this.signs.length; k++) {
      const order = compareValues(a[k], b[k]);
      if (order !== 0) return order * this.signs[k]!;
    }
    return 0;
  }

  protected take(position: number, tuple: KeyTuple): void {
    const { block, offset } = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i]! - position);
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
    const cursor = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i]! - position);
    if (this.blocks.length === 0) {
      this.blocks.push({ keys: tuple.map((value) => [value]), positions: [position] });
      return;
    }
    // Past the end of all entries the last block takes it.
    const at = Math.min(cursor.block, this.blocks.length - 1);
    const block = this.blocks[at]!;
    const offset = cursor.block > at ? block.positions.length : cursor.offset;
    block.positions.splice(offset, 0, position);
    block.keys.forEach((column, k) => column.splice(offset, 0, tuple[k]));
    if (block.positions.length > blockLimit) this.split(at);
  }

  private split(at: number): void {
    const block = this.blocks[at]!;
    // Appends in key order are common: a full last block stays nearly full.
    const keep = at === this.blocks.length - 1 ? Math.floor(blockLimit * 0.9) : blockLimit >> 1;
    this.blocks.splice(at + 1, 0, { keys: block.keys.map((column) => column.splice(keep)), positions: block.positions.splice(keep) });
  }

  protected compareEntry(keys: readonly Value[][], i: number, tuple: KeyTuple): number {
    for (let k = 0; k < tuple.length; k++) {
      const order = compareValues(keys[k]![i], tuple[k]);
      if (order !== 0) return order * this.signs[k]!;
    }
    return 0;
  }

  /** The first entry for which `compare` is not below zero. */
  protected seek(compare: (keys: readonly Value[][], i: number, positions: readonly number[]) => number): Cursor {
    let low = 0;
    let high = this.blocks.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      const { keys, positions } = this.blocks[middle]!;
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

  protected bounds({ fixed, interval }: IndexRange): [Cursor, Cursor] {
    const sign = this.signs[fixed.length]!;
    const compareFixed = (keys: readonly Value[][], i: number) => this.compareEntry(keys, i, fixed);
    const first = interval && (sign > 0 ? interval.low : interval.high);
    const last = interval && (sign > 0 ? interval.high : interval.low);
    const start = this.seek(
      (keys, i) => compareFixed(keys, i) || (first === undefined ? 0 : sign * compareToCut(keys[fixed.length]![i], first)),
    );
    // One past the range: the first entry that lies after it.
    const end = this.seek(
      (keys, i) => compareFixed(keys, i) || (last === undefined ? -1 : sign * compareToCut(keys[fixed.length]![i], last)),
    );
    return [start, end];
  }

  /** Whether there is an entry of a document under its keys, found as a lookup finds it. */
  has(position: number, tuple: KeyTuple): boolean {
    const { block, offset } = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i]! - position);
    const found = this.blocks[block];
    if (found?.positions[offset] !== position) return false;
    return this.compareKeys(tuple, found.keys.map((column) => column[offset])) === 0; // prettier-ignore
  }
}

/** Those of some values that a stretch of an order names. */
function picked<T>(values: readonly T[], order: Uint32Array, from: number, to: number): T[] {
  const taken: T[] = [];
  for (let i = from; i < to; i++) taken.push(values[order[i]!]!);
  return taken;
}
