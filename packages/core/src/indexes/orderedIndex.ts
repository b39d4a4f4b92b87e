import type { DocumentChange } from '../storage/residentStore.ts';
import type { DocumentStore } from '../storage/store.ts';
import { estimateBytes } from '../values/size.ts';
import { compareValues, type NullsPlace } from '../values/order.ts';
import type { JsonObject, Value } from '../values/json.ts';
import { compareToCut, type Interval } from './cuts.ts';
import type { IndexDefinition } from './definition.ts';
import { KeyReader, type KeyTuple } from './keyValues.ts';
import { sortEntries } from './sortEntries.ts';

/** A stretch of an index: fixed values of the leading keys, then perhaps an interval of the next. */
export interface IndexRange {
  readonly fixed: readonly Value[];
  readonly interval?: Interval;
}

/** How far a build is: the share of its phase that is done. */
export interface BuildProgress {
  readonly phase: 'reading' | 'sorting' | 'filling';
  readonly share: number;
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

/** Entries are kept in blocks of at most this many, so that one insertion moves few. */
const blockLimit = 1_024;

interface Block {
  /** One column a key, so that an entry is no object of its own. */
  readonly keys: Value[][];
  readonly positions: number[];
}

/** Entries from `[block, offset]` on; the end is exclusive. */
interface Cursor {
  block: number;
  offset: number;
}

/** A unique index met the same keys twice. */
export class UniqueViolation extends Error {
  readonly index: string;
  readonly values: readonly Value[];
  constructor(index: string, values: readonly Value[]) {
    super(`The unique index ${index} already has ${values.map((value) => JSON.stringify(value) ?? 'nothing').join(', ')}.`);
    this.index = index;
    this.values = values;
  }
}

/**
 * Sorted entries of keys and positions. Keys stand in the order of values, each in its direction; missing keys
 * of an entry come after null; entries of equal keys stand by position.
 */
export class OrderedIndex {
  readonly definition: IndexDefinition;
  private readonly reader: KeyReader;
  private readonly signs: readonly number[];
  private blocks: Block[] = [];
  /** Positions of covered documents that have none of the keys, ascending. */
  private absentPositions: number[] = [];
  private keyBytes = 0;
  /** For each key, how many entries have null there, and how many nothing. */
  private readonly nullKeys: number[];
  private readonly missingKeys: number[];
  entries = 0;

  private constructor(definition: IndexDefinition) {
    this.definition = definition;
    this.reader = new KeyReader(definition);
    this.nullKeys = definition.keys.map(() => 0);
    this.missingKeys = definition.keys.map(() => 0);
    this.signs = definition.keys.map((key) => (key.direction === 'desc' ? -1 : 1));
  }

  /**
   * Builds an index of all documents of a store, in steps: yields how far it is between them, so that a caller can pause.
   * @throws UniqueViolation where the index is unique and the documents are not
   */
  static *build(definition: IndexDefinition, store: DocumentStore): Generator<BuildProgress, OrderedIndex> {
    const index = new OrderedIndex(definition);
    const columns: Value[][] = definition.keys.map(() => []);
    const positions: number[] = [];
    const { documents } = store;
    for (let position = 0; position < documents.length; position++) {
      if (position % 8_192 === 0) yield { phase: 'reading', share: position / documents.length };
      const document = documents[position];
      if (document === undefined) continue;
      if (index.reader.hasSeveral) index.collect(document, position, columns, positions);
      else if (index.reader.putInto(columns, document)) positions.push(position);
      else if (index.reader.isCovered(document)) index.absentPositions.push(position);
    }
    const directions = definition.keys.map(({ direction }) => direction);
    const sorting = sortEntries(columns, directions, positions.length);
    let sorted = sorting.next();
    for (; !sorted.done; sorted = sorting.next()) yield { phase: 'sorting', share: sorted.value };
    yield* index.fill(columns, positions, sorted.value);
    return index;
  }

  private collect(
    document: NonNullable<DocumentStore['documents'][number]>,
    position: number,
    columns: Value[][],
    positions: number[],
  ): void {
    const tuples = this.reader.tuplesOf(document);
    if (tuples.length === 0 && this.reader.isCovered(document)) this.absentPositions.push(position);
    for (const tuple of tuples) {
      tuple.forEach((value, k) => columns[k].push(value));
      positions.push(position);
    }
  }

  private *fill(columns: readonly Value[][], positions: readonly number[], order: Uint32Array): Generator<BuildProgress> {
    this.entries = order.length;
    const fillTo = blockLimit * 0.75;
    for (let from = 0; from < order.length; from += fillTo) {
      const to = Math.min(order.length, from + fillTo);
      const keys = columns.map((column) => picked(column, order, from, to));
      const block = { keys, positions: picked(positions, order, from, to) };
      this.blocks.push(block);
      if (this.definition.unique) this.rejectRepeats(block, this.blocks[this.blocks.length - 2]);
      keys.forEach((column, k) => {
        for (const value of column) this.account(k, value, 1);
      });
      if (this.blocks.length % 32 === 0) yield { phase: 'filling', share: from / order.length };
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

  private compareKeys(a: readonly Value[], b: readonly Value[]): number {
    for (let k = 0; k < this.signs.length; k++) {
      const order = compareValues(a[k], b[k]);
      if (order !== 0) return order * this.signs[k];
    }
    return 0;
  }

  /** @throws UniqueViolation where an entry of a block has the keys of the one before it */
  private rejectRepeats({ keys, positions }: Block, before: Block | undefined): void {
    const keysAt = (columns: readonly Value[][], i: number) => columns.map((column) => column[i]);
    let last = before && keysAt(before.keys, before.positions.length - 1);
    for (let i = 0; i < positions.length; i++) {
      const current = keysAt(keys, i);
      if (last !== undefined && this.compareKeys(last, current) === 0) throw new UniqueViolation(this.definition.name, current);
      last = current;
    }
  }

  /** About how many bytes it takes in memory. */
  get bytes(): number {
    return this.keyBytes + this.entries * 8 + this.absentPositions.length * 8;
  }

  /**
   * The keys that a set of changes would bring in twice, where the index is unique; undefined where none.
   * Looked at before anything is written.
   */
  violation(changes: readonly DocumentChange[]): UniqueViolation | undefined {
    if (!this.definition.unique) return undefined;
    const leaving = new Set(changes.filter((change) => change.before !== undefined).map((change) => change.position));
    const coming: KeyTuple[] = changes.flatMap(({ after }) => (after === undefined ? [] : this.reader.tuplesOf(after)));
    const taken = coming.find((tuple) => this.positionsOf({ fixed: tuple }).some((position) => !leaving.has(position)));
    const sorted = [...coming].sort((a, b) => this.compareKeys(a, b));
    const repeated = taken ?? sorted.find((tuple, i) => i > 0 && this.compareKeys(sorted[i - 1], tuple) === 0);
    return repeated === undefined ? undefined : new UniqueViolation(this.definition.name, repeated);
  }

  /** The keys under which a document would stand. */
  tuplesOf(document: JsonObject): KeyTuple[] {
    return this.reader.tuplesOf(document);
  }

  /** Moves the entries of one changed document. */
  apply({ position, before, after }: DocumentChange): void {
    if (before !== undefined) this.removeAll(position, this.reader.tuplesOf(before));
    if (after === undefined) return;
    const tuples = this.reader.tuplesOf(after);
    for (const tuple of tuples) this.insert(position, tuple);
    if (tuples.length === 0 && this.reader.isCovered(after)) insertSorted(this.absentPositions, position);
  }

  private removeAll(position: number, tuples: readonly KeyTuple[]): void {
    if (tuples.length === 0) {
      const at = sortedPlace(this.absentPositions, position);
      if (this.absentPositions[at] === position) this.absentPositions.splice(at, 1);
    }
    for (const tuple of tuples) {
      const { block, offset } = this.seek((keys, i, positions) => this.compareEntry(keys, i, tuple) || positions[i] - position);
      const found = this.blocks[block];
      if (found?.positions[offset] !== position) continue;
      found.positions.splice(offset, 1);
      found.keys.forEach((column, k) => this.account(k, column.splice(offset, 1)[0], -1));
      if (found.positions.length === 0) this.blocks.splice(block, 1);
      this.entries--;
    }
  }

  private insert(position: number, tuple: KeyTuple): void {
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
    const found = { positions: [] as number[], keys: this.signs.map((): Value[] => []) };
    const [start, end] = this.bounds(range);
    for (let block = start.block; block <= end.block && block < this.blocks.length; block++) {
      const { keys, positions } = this.blocks[block];
      const from = block === start.block ? start.offset : 0;
      const to = block === end.block ? end.offset : positions.length;
      for (let i = from; i < to; i++) found.positions.push(positions[i]);
      keys.forEach((column, k) => {
        for (let i = from; i < to; i++) found.keys[k].push(column[i]);
      });
    }
    return found;
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

  /**
   * The positions of a range whose entries all have null or nothing at the first key of an order, in the order of
   * the keys after it; with the documents that have no entry at all, where they belong there too. Null and missing
   * tie, so that the entries' own order does not serve here.
   */
  positionsWithout(range: IndexRange, keyCount: number, backwards: boolean, nulls: readonly NullsPlace[], withAbsent: boolean): number[] {
    const first = range.fixed.length;
    const found: { position: number; keys: Value[] }[] = [];
    const [start, end] = this.bounds(range);
    for (const [block, i] of this.walk(start, end, false)) {
      const { keys, positions } = this.blocks[block];
      found.push({ position: positions[i], keys: keys.map((column) => column[i]) });
    }
    if (withAbsent) for (const position of this.absentPositions) found.push({ position, keys: [] });
    return found
      .sort((a, b) => {
        for (let k = first + 1; k < keyCount; k++) {
          const order = compareInOrder(a.keys[k], b.keys[k], backwards ? -this.signs[k] : this.signs[k], nulls[k - first]);
          if (order !== 0) return order;
        }
        return a.position - b.position;
      })
      .map(({ position }) => position);
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

  get absent(): readonly number[] {
    return this.absentPositions;
  }
}

/** Those of some values that a stretch of an order names. */
function picked<T>(values: readonly T[], order: Uint32Array, from: number, to: number): T[] {
  const taken: T[] = [];
  for (let i = from; i < to; i++) taken.push(values[order[i]]);
  return taken;
}

function compareInOrder(a: Value, b: Value, sign: number, nulls: NullsPlace): number {
  const emptyA = a === undefined || a === null;
  const emptyB = b === undefined || b === null;
  if (emptyA || emptyB) return emptyA === emptyB ? 0 : emptyA === (nulls === 'first') ? -1 : 1;
  return sign * compareValues(a, b);
}

/** Runs a build to its end without pausing. */
export function buildAtOnce(definition: IndexDefinition, store: DocumentStore): OrderedIndex {
  const steps = OrderedIndex.build(definition, store);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

function sortedPlace(sorted: readonly number[], value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle] < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

function insertSorted(sorted: number[], value: number): void {
  sorted.splice(sortedPlace(sorted, value), 0, value);
}
