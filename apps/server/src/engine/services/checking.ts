import { isSound, type Collection, type IndexCheck } from '@zesty-sieve/core';
import type { CheckState, CollectionCheck } from '@zesty-sieve/contract';
import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { StoredCollection } from '../../storage/stored.ts';
import { cancelledBy } from '../cancelling.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';

/** Holds indexes against their documents, and builds anew what is wrong. */
export function checking(room: EngineRoom) {
  const running = new Map<string, NonNullable<CheckState['running']>>();

  /** The indexes as they are now; those that are wrong are built anew, and looked at once more. */
  async function look(collection: Collection, name: string, isCancelled: () => boolean): Promise<CollectionCheck['indexes'] | undefined> {
    const onProgress = (index: string, share: number) => void running.set(name, { index, share });
    const found = await collection.checkIndexes(pause, isCancelled, onProgress);
    const wrong = found?.filter((one) => !isRight(one)) ?? [];
    for (const { name: index } of wrong) await collection.rebuild(index, pause);
    const rebuilt = new Set(wrong.map((one) => one.name));
    return found?.map((one) => ({ ...one, sound: isRight(one), rebuilt: rebuilt.has(one.name) }));
  }

  return {
    checkIndexes(stored: StoredCollection, cancel: SharedArrayBuffer): Promise<Reply<CollectionCheck>> {
      return reply(async () => {
        const started = performance.now();
        running.set(stored.name, { index: 'identity', share: 0 });
        try {
          const collection = await room.residency.ensure(stored);
          const indexes = await look(collection, stored.name, cancelledBy(cancel));
          if (indexes === undefined) throw new ServerProblem('/cancelled', 'The check was cancelled.');
          const problems = room.residency.troublesOf(stored.id);
          return {
            at: new Date().toISOString(),
            documents: collection.store.count,
            ms: Math.round(performance.now() - started),
            sound: problems.length === 0 && indexes.every(({ sound }) => sound),
            indexes,
            problems: [...problems],
          };
        } finally {
          running.delete(stored.name);
        }
      });
    },

    checkProgress(name: string): CheckState['running'] {
      return running.get(name) ?? null;
    },
  };
}

/** That documents share what should be unique is a matter of the documents: to build the index anew does not mend it. */
function isRight(check: IndexCheck): boolean {
  return isSound({ ...check, notUnique: 0 });
}
