import type { FileCheck } from '@zesty-sieve/contract';
import { reply, type Reply } from '../problem.ts';
import type { Once } from '../threads/messages.ts';
import { answered } from './answerStore.ts';
import { Collections } from './collections.ts';
import { Connections } from './connections.ts';
import { Documents } from './documents.ts';
import { checkFile } from './fileCheck.ts';
import { Imports } from './imports.ts';
import { Changes } from './rooms/changes.ts';
import { Exports } from './rooms/exports.ts';
import { Indexes } from './rooms/indexes.ts';
import { MaterializedViews } from './rooms/materialized.ts';
import { Pipelines } from './rooms/pipelines.ts';
import { Publications } from './rooms/publications.ts';
import { Runs } from './rooms/runs.ts';
import type { StoredCollection } from './stored.ts';

/** The file itself, and the rooms that are there once it is open. */
class StorageHouse {
  private connections!: Connections;
  /** Those that have the other calls. */
  rooms: readonly object[] = [];

  async open(file: string, undoBytes: number): Promise<Reply<null>> {
    return reply(async () => {
      const connections = await Connections.open(file);
      const stored = new Collections(connections);
      this.connections = connections;
      this.rooms = [
        stored,
        new Documents(connections, stored),
        new Imports(connections, stored),
        new Exports(connections),
        new Changes(connections, stored, undoBytes),
        new Runs(connections),
        new Indexes(connections),
        new Pipelines(connections),
        new MaterializedViews(connections),
        new Publications(connections),
      ];
      await stored.forgetLostScratch();
      return null;
    });
  }

  async close(): Promise<void> {
    await this.connections.close();
  }

  /** Copies the database into another file, as it is at one moment. */
  async backup(to: string): Promise<void> {
    await this.connections.copyTo(to);
  }

  checkFile(collection: StoredCollection): Promise<FileCheck> {
    return checkFile(this.connections, collection);
  }

  /** What a write that is made once has given, where it has been made. */
  answered(once: Once): Promise<Reply<{ readonly value: unknown } | null>> {
    return reply(async () => (await answered(this.connections.reading, once)) ?? null);
  }

  /** Gives free space back to the file system. */
  giveBack(): Promise<void> {
    return this.connections.giveBack();
  }
}

/** The calls of a room, without what it keeps to itself. */
type Calls<R> = { readonly [K in keyof R]: R[K] };
/** What rooms ask of one another, inside a transaction. */
type Inside = 'expectedOf' | 'nextPosition' | 'account' | 'adjust' | 'forgetLostScratch';

/**
 * Everything that is kept on disk, in a thread of its own. One connection writes, one operation at a time; another
 * reads what is committed. A change is acknowledged when its transaction has been committed.
 */
export type StorageService = Calls<Omit<StorageHouse, 'rooms'>> &
  Calls<Omit<Collections, Inside>> &
  Calls<Documents> &
  Calls<Imports> &
  Calls<Exports> &
  Calls<Changes> &
  Calls<Runs> &
  Calls<Indexes> &
  Calls<Pipelines> &
  Calls<MaterializedViews> &
  Calls<Publications>;

/** One flat service, since calls between threads go by name: each goes to the room that has it. */
export function storageService(): StorageService {
  const house = new StorageHouse();
  return new Proxy(house, {
    get: (_, call) => {
      const room = [house, ...house.rooms].find((one) => call in one) as Record<string | symbol, unknown> | undefined;
      const work = room?.[call];
      return typeof work === 'function' ? (work.bind(room) as unknown) : undefined;
    },
  }) as unknown as StorageService;
}
