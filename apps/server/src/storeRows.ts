import type { StoreAnswer, StoreBody, storeRequest } from '@zesty-sieve/contract';
import type { z } from 'zod';
import type { StageMode } from '@zesty-sieve/core';
import type { Hub } from './hub.ts';
import { unwrap } from './problem.ts';
import type { CancelFlag } from './threads/cancelFlag.ts';
import type { Once } from './threads/messages.ts';
import { withRefusals } from './uniqueness.ts';

const rowsAtOnce = 1_000;
const stageModes: Readonly<Record<StoreBody['mode'], StageMode>> = {
  new: 'beside',
  append: 'beside',
  replace: 'instead',
  merge: 'replacing',
};

/** Stores the rows of a run as documents of a collection, in one transaction. */
export async function storeRows(
  hub: Hub,
  runId: string,
  { collection: name, mode, identity }: z.output<typeof storeRequest>,
  once: Once | undefined,
  flag: CancelFlag,
): Promise<StoreAnswer> {
  // Asked before anything is made: the rows may no longer be kept.
  unwrap(await hub.engine.call((engine) => engine.rows(runId, 0, 1)));
  if (mode === 'new') await makeAnew(hub, name, identity, once);
  try {
    const { result } = await hub.commits.commit({
      collection: name,
      once,
      store: (collection) =>
        withRefusals(hub, collection, stageModes[mode], async (refusals) => {
          const options = {
            onDuplicate: mode === 'merge' ? ('replace' as const) : ('reject' as const),
            types: 'auto' as const,
            delimiter: ',',
            header: 'yes' as const,
          };
          const how = { format: 'ndjson' as const, zipped: false, options, clearsFirst: mode === 'replace', isStrict: true };
          let offset = 0;
          let isOver = false;
          const nextPiece = async () => {
            if (isOver) return null;
            const rows = { format: 'ndjson' as const, guardsFormulas: false };
            const piece = unwrap(await hub.engine.call((engine) => engine.rowsPiece(runId, offset, rowsAtOnce, rows)));
            isOver = piece.done;
            offset += rowsAtOnce;
            return new TextEncoder().encode(piece.text);
          };
          return unwrap(
            await hub.storage.call(
              (storage) => storage.load(collection, nextPiece, { ...how, cancel: flag.buffer }, refusals, () => undefined),
              {
                once,
                isLong: true,
              },
            ),
          );
        }),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    return { collection: name, inserted: result.inserted, replaced: result.replaced };
  } catch (error) {
    if (mode === 'new') await removeEmpty(hub, name);
    throw error;
  }
}

/** A new collection for the rows. One that an earlier try with the same key has left behind, empty or with them, is that one. */
async function makeAnew(hub: Hub, name: string, identity: string, once: Once | undefined): Promise<void> {
  const isThere = hub.catalog.find(name) !== null;
  if (isThere && once !== undefined && unwrap(await hub.storage.call((storage) => storage.answered(once)))) return;
  await hub.collections.create(name, identity, false);
}

/** Takes the collection away that was made for rows that could not be stored; not one that has got documents of others meanwhile. */
async function removeEmpty(hub: Hub, name: string): Promise<void> {
  if ((hub.catalog.find(name)?.count ?? 1) > 0) return;
  await hub.collections
    .remove(name)
    .catch((error: unknown) => hub.log.warn({ err: error, collection: name }, 'an empty collection was left behind'));
}
