import type { DocumentChange } from '../../storage/residentStore.ts';
import type { DocumentStore } from '../../storage/store.ts';
import { compareInOrder, type NullsPlace } from '../../values/order.ts';
import type { JsonObject, Value } from '../../values/json.ts';
import type { IndexDefinition } from '../definition.ts';
import { UniqueViolation, type BuildProgress, type BuiltIndex } from '../kind.ts';
import { KeyReader, type KeyTuple } from './keyValues.ts';
import { SortedEntries, type Block, type IndexEntry, type IndexRange } from './sortedEntries.ts';
import { orderInSteps } from '../../values/orderInSteps.ts';
import { entryOrder } from './entryOrder.ts';

/** The entries of a collection's documents by the keys of a definition. */
export class OrderedIndex extends SortedEntries implements BuiltIndex {
  readonly definition: IndexDefinition;
  private readonly reader: KeyReader;
  /** Positions of covered documents that have none of the keys, ascending. */
  private readonly absentPositions: number[] = [];

  private constructor(definition: IndexDefinition) {
    super(definition.keys.map(({ direction }) => direction));
    this.definition = definition;
    this.reader = new KeyReader(definition);
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
    const keyed = definition.keys.flatMap(({ direction }, k) => entryOrder(columns[k]!, direction));
    const sorting = orderInSteps(keyed, positions.length);
    let sorted = sorting.next();
    for (; !sorted.done; sorted = sorting.next()) yield { phase: 'sorting', share: sorted.value };
    const rejectRepeats = definition.unique ? index.rejectRepeats.bind(index) : () => undefined;
    for (const share of index.layDown(columns, positions, sorted.value, rejectRepeats)) yield { phase: 'filling', share };
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
      tuple.forEach((value, k) => columns[k]!.push(value));
      positions.push(position);
    }
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
    const repeated = taken ?? sorted.find((tuple, i) => i > 0 && this.compareKeys(sorted[i - 1]!, tuple) === 0);
    return repeated === undefined ? undefined : new UniqueViolation(this.definition.name, repeated);
  }

  /** The keys under which a document would stand. */
  tuplesOf(document: JsonObject): KeyTuple[] {
    return this.reader.tuplesOf(document);
  }

  /** Whether a document is one that the index's condition lets in. */
  covers(document: JsonObject): boolean {
    return this.reader.isCovered(document);
  }

  /** Moves the entries of one changed document. */
  apply({ position, before, after }: DocumentChange): void {
    if (before !== undefined) this.removeAll(position, this.reader.tuplesOf(before));
    if (after === undefined) return;
    const tuples = this.reader.tuplesOf(after);
    for (const tuple of tuples) this.put(position, tuple);
    if (tuples.length === 0 && this.reader.isCovered(after)) insertSorted(this.absentPositions, position);
  }

  private removeAll(position: number, tuples: readonly KeyTuple[]): void {
    if (tuples.length === 0) {
      const at = sortedPlace(this.absentPositions, position);
      if (this.absentPositions[at] === position) this.absentPositions.splice(at, 1);
    }
    for (const tuple of tuples) this.take(position, tuple);
  }

  /**
   * The positions of a range whose entries all have null or nothing at the first key of an order, in the order of
   * the keys after it; with the documents that have no entry at all, where they belong there too. Null and missing
   * tie, so that the entries' own order does not serve here.
   */
  positionsWithout(range: IndexRange, keyCount: number, backwards: boolean, nulls: readonly NullsPlace[], withAbsent: boolean): number[] {
    const first = range.fixed.length;
    const { keys, positions } = this.columnsOf(range);
    const found: IndexEntry[] = positions.map((position, i) => ({ position, keys: keys.map((column) => column[i]) }));
    if (withAbsent) for (const position of this.absentPositions) found.push({ position, keys: [] });
    return found
      .sort((a, b) => {
        for (let k = first + 1; k < keyCount; k++) {
          const order = compareInOrder(a.keys[k], b.keys[k], backwards === (this.signs[k] === -1) ? 1 : -1, nulls[k - first]!);
          if (order !== 0) return order;
        }
        return a.position - b.position;
      })
      .map(({ position }) => position);
  }

  get absent(): readonly number[] {
    return this.absentPositions;
  }
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
    if (sorted[middle]! < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

function insertSorted(sorted: number[], value: number): void {
  sorted.splice(sortedPlace(sorted, value), 0, value);
}
