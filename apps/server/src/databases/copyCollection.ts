import type { copiedCollection } from '@zesty-sieve/contract';
import type { z } from 'zod';
import type { IndexRequest } from '@zesty-sieve/core';
import type { Hub } from '../hub.ts';
import { makeIndex } from '../makeIndex.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';

type Copied = z.infer<typeof copiedCollection>;

/** Copies a collection as it is at one moment into another database, with its indexes; where that fails, nothing of it is there. */
export async function copyCollection(from: Hub, to: Hub, { collection, as: name }: { readonly collection: string; readonly as: string }, toName: string, flag: CancelFlag): Promise<Copied> {
  const source = from.catalog.collection(collection);
  if (source.isView) throw new ServerProblem('/request', `${collection} is a view: save its pipeline in the other database.`);
  const handle = unwrap(await from.storage.call((storage) => storage.beginExport(source, { format: 'ndjson', guardsFormulas: false })));
  try {
    await to.collections.create(name, source.identity, false);
    try {
      const options = { onDuplicate: 'reject' as const, types: 'auto' as const, delimiter: ',', header: 'yes' as const };
      const how = { format: 'ndjson' as const, zipped: false, options, clearsFirst: false, isStrict: true, cancel: flag.buffer };
      const nextPiece = async () => {
        const piece = unwrap(await from.storage.call((storage) => storage.nextPiece(handle)));
        return piece === null ? null : new TextEncoder().encode(piece);
      };
      const { result } = await to.commits.commit({
        collection: name,
        store: async (made) => unwrap(await to.storage.call((storage) => storage.load(made, nextPiece, how, null, () => undefined), { isLong: true })),
        follow: (engine, _stored, made) => engine.forget(made),
      });
      for (const { definition } of source.indexes) await makeIndex(to, name, JSON.parse(definition) as IndexRequest);
      return { collection: name, to: toName, documents: result.inserted, indexes: source.indexes.length };
    } catch (error) {
      await to.collections.remove(name).catch(() => undefined);
      throw error;
    }
  } finally {
    await from.storage.call((storage) => storage.endExport(handle)).catch(() => undefined);
  }
} // prettier-ignore
