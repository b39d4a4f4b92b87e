import type { copiedCollection } from '@zesty-sieve/contract';
import type { z } from 'zod';
import type { IndexRequest } from '@zesty-sieve/core';
import type { Hub } from '../hub.ts';
import { makeIndex } from '../makeIndex.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';

type Copied = z.infer<typeof copiedCollection>;

/** What is copied from where to where. */
export interface Copying {
  readonly from: Hub;
  readonly to: Hub;
  readonly toName: string;
  readonly collection: string;
  readonly as: string;
}

export interface CopyProgress {
  readonly documents: number;
  /** How many there are. */
  readonly of: number;
  /** The index that is being built. */
  readonly index?: string;
}

/** Copies a collection as it is at one moment into another database, with its indexes; where that fails, nothing of it is there. */
export async function copyCollection({ from, to, toName, collection, as: name }: Copying, flag: CancelFlag, onProgress: (progress: CopyProgress) => void): Promise<Copied> {
  const source = from.catalog.collection(collection);
  if (source.isView) throw new ServerProblem('/request', `${collection} is a view: save its pipeline in the other database.`);
  const handle = unwrap(await from.storage.call((storage) => storage.beginExport(source, { format: 'ndjson', guardsFormulas: false })));
  try {
    await to.collections.create(name, source.identity, false);
    try {
      const options = { onDuplicate: 'reject' as const, types: 'auto' as const, delimiter: ',', header: 'yes' as const };
      const how = { format: 'ndjson' as const, zipped: false, options, clearsFirst: false, isStrict: true, cancel: flag.buffer };
      let documents = 0;
      const nextPiece = async () => {
        const piece = unwrap(await from.storage.call((storage) => storage.nextPiece(handle)));
        if (piece === null) return null;
        for (let at = piece.indexOf('\n'); at >= 0; at = piece.indexOf('\n', at + 1)) documents++;
        onProgress({ documents, of: source.count });
        return new TextEncoder().encode(piece);
      };
      const { result } = await to.commits.commit({
        collection: name,
        store: async (made) => unwrap(await to.storage.call((storage) => storage.load(made, nextPiece, how, null, () => undefined), { isLong: true })),
        follow: (engine, _stored, made) => engine.forget(made),
      });
      for (const { name: index, definition } of source.indexes) {
        onProgress({ documents, of: source.count, index });
        await makeIndex(to, name, JSON.parse(definition) as IndexRequest);
        if (flag.isCancelled) throw new ServerProblem('/cancelled', '');
      }
      return { collection: name, to: toName, documents: result.inserted, indexes: source.indexes.length };
    } catch (error) {
      await to.collections.remove(name).catch(() => undefined);
      throw error;
    }
  } finally {
    await from.storage.call((storage) => storage.endExport(handle)).catch(() => undefined);
  }
} // prettier-ignore
