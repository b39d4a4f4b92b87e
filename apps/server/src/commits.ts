import { Mutex } from 'async-mutex';
import type { Logger } from 'pino';
import type { Catalog } from './catalog.ts';
import type { EngineService } from './engine/engineService.ts';
import type { Events, ServerEvent } from './events.ts';
import { unwrap, ServerProblem, type Reply } from './problem.ts';
import type { StorageService } from './storage/storageService.ts';
import type { Check, StoredCollection, TextPut } from './storage/stored.ts';
import type { Once } from './threads/messages.ts';
import type { Remote, Thread } from './threads/thread.ts';

/** A write: first to the file, then to what the engine has in memory. */
export interface Commit<T> {
  readonly collection: string;
  /** Makes the write one that is made once. */
  readonly once?: Once | undefined;
  readonly kind?: ServerEvent['kind'];
  /** Writes it. What is stored when this has ended stays stored, whatever comes after. */
  readonly store: (collection: StoredCollection) => Promise<T>;
  /** Lets the engine follow; it need not know what it does not have in memory. */
  readonly follow?: (engine: Remote<EngineService>, stored: T, collection: StoredCollection) => Promise<unknown>;
}

/** What a write goes through. */
export interface WritePath {
  readonly storage: Thread<StorageService>;
  readonly engine: Thread<EngineService>;
  readonly catalog: Catalog;
  readonly events: Events;
  readonly log: Logger;
  readonly writeLimitMs: number;
}

/** Writes: storage first, then the engine, so that what the engine answers is always on disk; one at a time of each collection. */
export class Commits {
  private readonly turns = new Map<string, Mutex>();
  private readonly path: WritePath;
  private readonly underway = new Set<string>();
  /** Called when a collection has been written and the engine knows of it, before that is told to whoever wrote. */
  onWritten: (collection: string) => Promise<void> = () => Promise.resolve();

  constructor(path: WritePath) {
    this.path = path;
  }

  /**
   * The one way to write documents, indexes and collections: one write of a collection at a time, from the file to the engine's
   * knowing of it. The turn is held while writing, and never while waiting for whoever asked. Where the engine fails after it has been
   * stored, what it has in memory goes, and is read again from the file: the write has been made all the same.
   */
  async commit<T>({ collection: name, once, kind = 'documents', store, follow }: Commit<T>): Promise<T> {
    // Refused before a turn is kept for it; what has been made already may have taken the collection's name away.
    if (once === undefined) this.path.catalog.collection(name);
    return this.turnOf(name).runExclusive(async () => {
      const before = once && unwrap(await this.path.storage.call((storage) => storage.answered(once)));
      if (before) return before.value as T;
      const collection = this.path.catalog.collection(name);
      if (collection.isView && (kind === 'documents' || kind === 'collections')) throw isOfView(name);
      let stored: T;
      this.underway.add(name);
      try {
        stored = await store(collection);
      } catch (error) {
        this.underway.delete(name);
        // Where the storage ended amid it, it may be stored or not: the file knows.
        if (isLost(error)) await this.forget(collection);
        await this.path.catalog.relist();
        throw error;
      }
      try {
        await this.path.catalog.relist();
        await this.letFollow(collection, (engine) => follow?.(engine, stored, collection));
      } finally {
        this.underway.delete(name);
      }
      await this.onWritten(name);
      this.path.events.tell({ kind, collection: name });
      return stored;
    });
  }

  /** Works with a collection while nobody writes it. */
  async quietly<T>(name: string, work: (collection: StoredCollection) => Promise<T>): Promise<T> {
    this.path.catalog.collection(name);
    return this.turnOf(name).runExclusive(async () => {
      await this.path.catalog.relist();
      return work(this.path.catalog.collection(name));
    });
  }

  /** Whether a collection is being written, and the engine may have what the catalog does not, or the other way round. */
  isUnderway(name: string): boolean {
    return this.underway.has(name);
  }

  private turnOf(name: string): Mutex {
    let turn = this.turns.get(name);
    if (turn === undefined) {
      // Of collections that are gone nobody needs a turn; one that somebody waits for is kept by those that wait.
      for (const [other, held] of this.turns) if (!held.isLocked() && this.path.catalog.find(other) === null) this.turns.delete(other);
      this.turns.set(name, (turn = new Mutex()));
    }
    return turn;
  }

  private async letFollow(collection: StoredCollection, follow: (engine: Remote<EngineService>) => unknown): Promise<void> {
    try {
      await this.path.engine.call((engine) => follow(engine));
    } catch (error) {
      this.path.log.warn(
        { err: error, collection: collection.name },
        'stored, and the engine could not follow: it reads the collection again',
      );
      await this.forget(collection);
    }
  }

  /** Sees to it that the engine reads a collection again. Where it cannot be told, it has ended, and has forgotten all. */
  private async forget(collection: StoredCollection): Promise<void> {
    try {
      await this.path.engine.call((engine) => engine.forget(collection));
    } catch {
      await this.path.engine.restart();
    }
  }

  /** Asks unique indexes before documents are committed; nothing to ask where there are none. */
  checkFor(collection: StoredCollection): Check | null {
    if (!hasUnique(collection)) return null;
    return (puts: readonly TextPut[]) => this.path.engine.call((engine) => engine.check(collection, puts));
  }

  /** Writes a few documents: what the storage puts, the engine takes over. */
  commitPuts<T extends { readonly puts: readonly TextPut[] }>(
    name: string,
    once: Once | undefined,
    write: (storage: Remote<StorageService>, collection: StoredCollection, check: Check | null) => Promise<Reply<T>>,
  ): Promise<T> {
    return this.commit({
      collection: name,
      once,
      store: async (collection) =>
        unwrap(
          await this.path.storage.call((storage) => write(storage, collection, this.checkFor(collection)), {
            once,
            limitMs: this.path.writeLimitMs,
          }),
        ),
      follow: (engine, { puts }, collection) => engine.apply(collection, puts),
    });
  }
}

function isOfView(name: string): ServerProblem {
  return new ServerProblem(
    '/in-use',
    `${name} is a materialized view: its rows are what its pipeline gives. Change the documents that it reads, or the pipeline.`,
  );
}

/** Whether it is not known what came of something. */
function isLost(error: unknown): boolean {
  return !(error instanceof ServerProblem) || error.problem.type.endsWith('/restarted');
}

export function hasUnique({ indexes }: StoredCollection): boolean {
  return indexes.some(({ definition }) => (JSON.parse(definition) as { unique?: boolean }).unique === true);
}
