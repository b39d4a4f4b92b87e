import type { DocumentStore } from '../../storage/store.ts';
import { equalValues } from '../../values/equality.ts';
import type { IndexCheck } from '../kind.ts';
import type { OrderedIndex } from './orderedIndex.ts';

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
