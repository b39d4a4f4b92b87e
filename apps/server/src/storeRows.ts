import type { StoreAnswer, storeRequest } from '@zesty-sieve/contract';
import type { z } from 'zod';
import { hasUnique, type Hub } from './hub.ts';
import { ServerProblem, unwrap } from './problem.ts';

const rowsAtOnce = 1_000;

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
    return await hub.change(name, async (collection) => {
      if (hasUnique(collection) && mode !== 'new') {
        throw new ServerProblem(
          '/unique',
          `${name} has unique indexes, which are not asked about stored rows yet. Drop them, store the rows, and build them again.`,
        );
      }
      const options = {
        onDuplicate: mode === 'merge' ? ('replace' as const) : ('reject' as const),
        types: 'auto' as const,
        delimiter: ',',
        header: 'yes' as const,
      };
      const open = unwrap(
        await hub.storage.call((storage) => storage.beginImport(collection, 'ndjson', false, options, null, mode === 'replace')),
      );
      try {
        for (let offset = 0, done = false; !done; offset += rowsAtOnce) {
          const piece = unwrap(await hub.engine.call((engine) => engine.rowsPiece(runId, offset, rowsAtOnce, 'ndjson')));
          done = piece.done;
          const bytes = new TextEncoder().encode(piece.text);
          unwrap(await hub.storage.call((storage) => storage.pushImport(open, bytes)));
        }
        const { result } = unwrap(await hub.storage.call((storage) => storage.finishImport(open, true)));
        // Unique indexes are built again with the collection, and say so where the rows do not meet them.
        await hub.engine.call((engine) => engine.forget(name));
        return { collection: name, inserted: result.inserted, replaced: result.replaced };
      } finally {
        await hub.storage.call((storage) => storage.abandonImport(open));
      }
    });
  } catch (error) {
    if (mode === 'new') await hub.remove(name).catch(() => undefined);
    throw error;
  }
}
