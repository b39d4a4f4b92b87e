import { v7 as uuidv7 } from 'uuid';
import type { StageMode } from '@zesty-sieve/core';
import { type Hub } from './hub.ts';
import { hasUnique } from './commits.ts';
import type { Refusals } from './storage/importer.ts';
import type { StoredCollection } from './storage/stored.ts';

/** Asks the unique indexes of a collection about documents on their way in, while work goes on; null where there are none. */
export async function withRefusals<T>(
  hub: Hub,
  collection: StoredCollection,
  mode: StageMode,
  work: (refusals: Refusals | null) => Promise<T>,
): Promise<T> {
  if (!hasUnique(collection)) return work(null);
  const stage = uuidv7();
  try {
    return await work((texts: readonly string[]) => hub.engine.call((engine) => engine.refusals(collection, stage, mode, texts)));
  } finally {
    // An engine that has ended has none.
    await hub.engine.call((engine) => engine.endStage(stage)).catch(() => undefined);
  }
}
