import type { StoreAnswer, StoreBody, storeRequest } from '@zesty-sieve/contract';
import type { z } from 'zod';
import type { StageMode } from '@zesty-sieve/core';
import type { Hub } from './hub.ts';
import { unwrap } from './problem.ts';
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
): Promise<StoreAnswer> {
  // Asked before anything is made: the rows may no longer be kept.
  unwrap(await hub.engine.call((engine) => engine.rows(runId, 0, 1)));
  if (mode === 'new') await hub.create(name, identity, false);
  try {
    return await hub.change(name, (collection) =>
      withRefusals(hub, collection, stageModes[mode], async (refusals) => {
        const options = {
          onDuplicate: mode === 'merge' ? ('replace' as const) : ('reject' as const),
          types: 'auto' as const,
          delimiter: ',',
          header: 'yes' as const,
        };
        const open = unwrap(
          await hub.storage.call((storage) => storage.beginImport(collection, 'ndjson', false, options, refusals, mode === 'replace')),
        );
        try {
          for (let offset = 0, done = false; !done; offset += rowsAtOnce) {
            const piece = unwrap(await hub.engine.call((engine) => engine.rowsPiece(runId, offset, rowsAtOnce, 'ndjson')));
            done = piece.done;
            const bytes = new TextEncoder().encode(piece.text);
            unwrap(await hub.storage.call((storage) => storage.pushImport(open, bytes)));
          }
          const { result } = unwrap(await hub.storage.call((storage) => storage.finishImport(open, true)));
          await hub.engine.call((engine) => engine.forget(name));
          return { collection: name, inserted: result.inserted, replaced: result.replaced };
        } finally {
          await hub.storage.call((storage) => storage.abandonImport(open));
        }
      }),
    );
  } catch (error) {
    if (mode === 'new') await hub.remove(name).catch(() => undefined);
    throw error;
  }
}
