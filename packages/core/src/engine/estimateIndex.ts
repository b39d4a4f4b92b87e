import type { IndexDefinition } from '../indexes/definition.ts';
import type { BuiltIndex } from '../indexes/kind.ts';
import { kindOf } from '../indexes/kinds.ts';
import type { DocumentStore } from '../storage/store.ts';
import { milliseconds } from '../values/clock.ts';
import type { Collection } from './collection.ts';
import type { Pause } from './pause.ts';

/** What an index that is not built would take, about. */
export interface IndexEstimate {
  readonly entries: number;
  /** In memory. */
  readonly bytes: number;
  readonly buildMs: number;
}

/** Builds an index over a sample of the documents, pausing between steps, and tells what all of them would take. */
export async function estimateIndex(collection: Collection, definition: IndexDefinition, pause: Pause): Promise<IndexEstimate> {
  const { store, scale } = collection.sample();
  const { index, ms } = await built({ ...definition, unique: false }, store, pause);
  // What is put in order, or walked through, takes longer for each of many.
  const deeper = Math.log2(2 + collection.store.count) / Math.log2(2 + store.count);
  return { entries: Math.round(index.entries * scale), bytes: Math.round(index.bytes * scale), buildMs: ms * scale * deeper };
}

async function built(definition: IndexDefinition, store: DocumentStore, pause: Pause): Promise<{ index: BuiltIndex; ms: number }> {
  const steps = kindOf(definition).build(definition, store);
  for (let ms = 0; ; await pause()) {
    const started = milliseconds();
    const step = steps.next();
    ms += milliseconds() - started;
    if (step.done) return { index: step.value, ms };
  }
}
