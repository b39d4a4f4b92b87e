import type { IndexInfo } from '@zesty-sieve/contract';
import { IndexProblem, readIndex, type IndexRequest } from '@zesty-sieve/core';
import type { Hub } from './hub.ts';
import { ServerProblem, unwrap } from './problem.ts';
import type { StoredCollection } from './storage/stored.ts';
import type { Once } from './threads/messages.ts';

/** The name that an index gets; that of one which cannot be made is never told, since the engine refuses it. */
function nameOf(definition: IndexRequest): string {
  try {
    return readIndex(definition).name;
  } catch (error) {
    if (error instanceof IndexProblem) return '';
    throw error;
  }
}

/** Builds an index and keeps it. It goes on when whoever asked goes away: it may take a while, and is of use to others. */
export function makeIndex(hub: Hub, collection: string, definition: IndexRequest, once?: Once): Promise<IndexInfo> {
  const store = async (stored: StoredCollection) => {
    if (stored.isView && 'unique' in definition && definition.unique === true)
      throw new ServerProblem(
        '/index',
        `${stored.name} is a materialized view, whose rows are not refused: make the index without unique.`,
      );
    const detail = nameOf(definition);
    const look = async () => {
      const build = (await hub.engine.call((engine) => engine.buildsOf(stored.name))).find(({ name }) => name === detail);
      return { share: build === undefined || build.phase === 'waiting' ? null : build.share };
    };
    const cancel = () => hub.engine.call((engine) => engine.cancelBuild(stored.name, detail));
    const building = hub.work.during({ kind: 'index', of: stored.name, detail, look, cancel }, () =>
      hub.engine.call((engine) => engine.createIndex(stored, definition)),
    );
    // Others see how far it comes from now on.
    hub.events.tell({ kind: 'indexes', collection: stored.name });
    const { definition: text, ...info } = unwrap(await building);
    const kept = { name: info.name, definition: text, createdAt: info.createdAt ?? '', buildMs: info.buildMs };
    try {
      const told = { ...info, uses: 0, lastUsedAt: null } as IndexInfo;
      return unwrap(await hub.storage.call((storage) => storage.addIndex(stored.id, kept, told), { once, limitMs: hub.writeLimitMs }));
    } catch (error) {
      // What is not stored is not used either.
      await hub.engine.call((engine) => engine.dropIndex(stored, info.name));
      throw error;
    }
  };
  return hub.commits.commit({ collection, once, kind: 'indexes', store });
}
