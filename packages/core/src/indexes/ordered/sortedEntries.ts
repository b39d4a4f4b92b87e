import type { Value } from '../../values/json.ts';
import { compareValues } from '../../values/order.ts';
import type { IndexEntry, IndexRange, KeyRun } from './entry.ts';
import { EntryBlocks } from './entryBlocks.ts';
import { afterSkipping, entriesBetween, type Stretch } from './skipping.ts';

export type { EmptyEntries, IndexEntry, IndexRange, KeyRun } from './entry.ts';
export type { Block } from './entryBlocks.ts';

/** Sorted entries as they are read: counted, listed, walked either way, and run by run of one value. */
export class SortedEntries extends EntryBlocks {
  /** Each two entries that stand next to each other: their keys, and how they compare, by position where the keys tie. */
  *neighbours(): Generator<{ readonly before: readonly Value[]; readonly after: readonly Value[]; readonly order: number }> {
    let before: { keys: readonly Value[]; position: number } | undefined;
    for (const { keys, positions } of this.blocks) {
      for (let i = 0; i < positions.length; i++) {
        const after = { keys: keys.map((column) => column[i]), position: positions[i]! };
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
    return entriesBetween(this.blocks, { start, end });
  }

  /** The positions of a range in the order of the entries. */
  positionsOf(range: IndexRange): number[] {
    const found: number[] = [];
    const [start, end] = this.bounds(range);
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { positions } = this.blocks[block]!;
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      for (let i = from; i < to; i++) found.push(positions[i]!);
    }
    return found;
  }

  /** The entry at a place of a range, counted from its first; undefined past its end. */
  entryAt(range: IndexRange, place: number): IndexEntry | undefined {
    const [start, end] = this.bounds(range);
    let left = place;
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { keys, positions } = this.blocks[block]!;
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      if (left < to - from) return { position: positions[from + left]!, keys: keys.map((column) => column[from + left]) };
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
      const { keys, positions } = this.blocks[block]!;
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      copyInto(found.positions, at, positions, from, to);
      for (let k = 0; k < keys.length; k++) copyInto(found.keys[k]!, at, keys[k]!, from, to);
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
      const { keys, positions } = this.blocks[block]!;
      const run = { value: keys[at]![offset], first: positions[offset]!, count: 0 };
      for (let goesOn = true; goesOn;) {
        const to = runEnd(this.blocks[block]!.keys[at]!, offset, endOf(block), run.value);
        run.count += to - offset;
        offset = to;
        goesOn = to >= endOf(block);
        if (!goesOn) break;
        skipEnded();
        goesOn = block <= end.block && offset < endOf(block) && sameKey(this.blocks[block]!.keys[at]![offset], run.value);
      }
      yield run;
    }
  }

  /** The same groups as `groups`, of whole entries. */
  *entryGroups(range: IndexRange, keyCount: number, backwards: boolean, skip = 0): Generator<readonly IndexEntry[]> {
    const { stretch, passed } = this.skipping(range, keyCount, backwards, skip);
    let group: IndexEntry[] = [];
    let left = passed;
    for (const [block, i] of this.walk(stretch, backwards)) {
      const { keys, positions } = this.blocks[block]!;
      if (group.length > 0 && !this.ties(group[0]!.keys, keys, i, range.fixed.length, keyCount)) {
        yield group.sort((a, b) => a.position - b.position).slice(left);
        left = 0;
        group = [];
      }
      group.push({ position: positions[i]!, keys: keys.map((column) => column[i]) });
    }
    if (group.length > 0) yield group.sort((a, b) => a.position - b.position).slice(left);
  }

  /**
   * Walks a range forwards or backwards in groups of entries that tie on the first `keyCount` keys, null and
   * missing tying as in an order; each group's positions ascend. So many entries are passed over first, by counting blocks: what is read of
   * them are those alone that tie with the first one after.
   */
  *groups(range: IndexRange, keyCount: number, backwards: boolean, skip = 0): Generator<readonly number[]> {
    const { stretch, passed } = this.skipping(range, keyCount, backwards, skip);
    let group: number[] = [];
    let left = passed;
    let keysOfGroup: Value[] | undefined;
    for (const [block, i] of this.walk(stretch, backwards)) {
      const { keys, positions } = this.blocks[block]!;
      const same = keysOfGroup !== undefined && this.ties(keysOfGroup, keys, i, range.fixed.length, keyCount);
      if (!same) {
        if (group.length > 0) {
          yield group.sort((a, b) => a - b).slice(left);
          left = 0;
        }
        group = [];
        keysOfGroup = keys.map((column) => column[i]);
      }
      group.push(positions[i]!);
    }
    if (group.length > 0) yield group.sort((a, b) => a - b).slice(left);
  }

  private skipping(range: IndexRange, keyCount: number, backwards: boolean, skip: number): { stretch: Stretch; passed: number } {
    const [start, end] = this.bounds(range);
    return afterSkipping(this.blocks, { start, end }, skip, backwards, (a, b) => {
      const group = this.blocks[a.block]!.keys.map((column) => column[a.offset]);
      return this.ties(group, this.blocks[b.block]!.keys, b.offset, range.fixed.length, keyCount);
    });
  }

  private *walk({ start, end }: Stretch, backwards: boolean): Generator<[number, number]> {
    const first = start.block;
    const last = Math.min(end.block, this.blocks.length - 1);
    for (let n = 0; n <= last - first; n++) {
      const block = backwards ? last - n : first + n;
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : this.blocks[block]!.positions.length;
      for (let m = 0; m < to - from; m++) yield [block, backwards ? to - 1 - m : from + m];
    }
  }

  private ties(group: readonly Value[], keys: readonly Value[][], i: number, from: number, to: number): boolean {
    for (let k = from; k < to; k++) {
      const a = group[k] ?? null;
      const b = keys[k]![i] ?? null;
      if (a !== b && compareValues(a, b) !== 0) return false;
    }
    return true;
  }
}

function copyInto<T>(target: T[], at: number, source: readonly T[], from: number, to: number): void {
  for (let i = from; i < to; i++) target[at + i - from] = source[i]!;
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
