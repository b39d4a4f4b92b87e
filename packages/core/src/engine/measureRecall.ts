import { kindOf } from '../indexes/kinds.ts';
import type { KeptRecall, RecallAsked } from '../indexes/recall.ts';
import type { Collection } from './collection.ts';
import type { Pause } from './pause.ts';

/** How long work is watched while it is done. */
export interface Supervised {
  readonly pause: Pause;
  readonly isCancelled: () => boolean;
  readonly onProgress: (share: number) => void;
}

/**
 * Measures how many of the true best an index finds, pausing between steps; nobody writes meanwhile. What was measured stays with the index.
 * @param at when it is measured, RFC 3339
 * @returns null where there is nothing to measure it by; undefined where it was cancelled
 */
export async function measureRecall(
  collection: Collection,
  name: string,
  asked: RecallAsked & { readonly at: string },
  { pause, isCancelled, onProgress }: Supervised,
): Promise<KeptRecall | null | undefined> {
  const definition = collection.index(name)?.definition;
  if (definition === undefined || kindOf(definition).recall === undefined) return null;
  // What was only begun takes minutes to be whole: nobody is kept from writing meanwhile.
  await collection.goOn(pause, () => !isCancelled());
  return collection.gate.read(async () => {
    const index = collection.index(name);
    const steps = index && kindOf(index.definition).recall?.(index, collection.store, asked);
    if (index === undefined || steps === undefined) return null;
    let step = steps.next();
    for (; !step.done; step = steps.next()) {
      onProgress(step.value);
      await pause();
      if (isCancelled()) return undefined;
    }
    if (step.value === undefined) return null;
    index.recall = { ...step.value, measuredAt: asked.at };
    return index.recall;
  });
}
