import type { DocumentStore } from '../storage/store.ts';
import { equalValues } from '../values/equality.ts';
import type { OrderedIndex } from './orderedIndex.ts';

/** What was found when an index was held against its documents. All but the first two are 0 where it is sound. */
export interface IndexCheck {
  readonly name: string;
  /** Entries that the index has, and those that its documents should have. */
  readonly entries: number;
  readonly expected: number;
  /** Entries of documents that are not found under their keys. */
  readonly missing: number;
  /** Entries that stand twice. */
  readonly repeated: number;
  /** Entries that do not stand where their keys belong. */
  readonly misplaced: number;
  /** Documents that are wrongly taken for having none of the keys, or not taken for it. */
  readonly absent: number;
  /** Of a unique index: entries with the keys of the one before. */
  readonly notUnique: number;
}

export function isSound({ entries, expected, missing, repeated, misplaced, absent, notUnique }: IndexCheck): boolean {
  return entries === expected && missing + repeated + misplaced + absent + notUnique === 0;
}

const atOnce = 1_024;

/** Holds every entry of an index against the documents, and every document against the entries, in steps: yields the share that is done. */
export function* checkIndex(index: OrderedIndex, store: DocumentStore): Generator<number, IndexCheck> {
  const { documents } = store;
  const found = { expected: 0, missing: 0, absent: 0 };
  const absent = new Set(index.absent);
  for (let position = 0; position < documents.length; position++) {
    if (position % atOnce === 0) yield (position / documents.length) * 0.8;
    const document = documents[position];
    if (document === undefined) continue;
    const tuples = index.tuplesOf(document);
    found.expected += tuples.length;
    for (const tuple of tuples) if (!index.has(position, tuple)) found.missing++;
    if (absent.delete(position) !== (tuples.length === 0 && index.covers(document))) found.absent++;
  }
  let misplaced = 0;
  let repeated = 0;
  let notUnique = 0;
  const { entries } = index;
  const neighbours = index.neighbours();
  for (let at = 0; ; at++) {
    if (at % (16 * atOnce) === 0) yield 0.8 + (at / Math.max(1, entries)) * 0.2;
    const next = neighbours.next();
    if (next.done) break;
    if (next.value.order > 0) misplaced++;
    if (next.value.order === 0) repeated++;
    const { before, after } = next.value;
    if (index.definition.unique && before.every((value, k) => equalValues(value, after[k]))) notUnique++;
  }
  return { name: index.definition.name, entries, ...found, absent: found.absent + absent.size, repeated, misplaced, notUnique };
}
