import { randomUUID } from 'node:crypto';
import { Mutex } from 'async-mutex';
import type { CollectionInfo, Settings } from '@zesty-sieve/contract';
import { defaultGuards } from '@zesty-sieve/core';
import { collectionsRead, type View } from '@zesty-sieve/core/language';
import type { Logger } from 'pino';
import { Checks } from './checks.ts';
import type { CancelFlag } from './threads/cancelFlag.ts';
import type { Once } from './threads/messages.ts';
import { Thread, type Remote, type ThreadOptions } from './threads/thread.ts';
import type { EngineService } from './engine/engineService.ts';
import { unwrap, ServerProblem, type Reply } from './problem.ts';
import { RunLog } from './runLog.ts';
import type { StorageService } from './storage/storageService.ts';
import type { Check, StoredCollection, TextPut } from './storage/stored.ts';

export interface HubOptions {
  readonly file: string;
  /** Bytes of parsed documents that may be in memory. */
  readonly memoryBytes: number;
  /** Bytes of replaced documents that are kept so that changes can be taken back. */
  readonly undoBytes: number;
  readonly log: Logger;
  /** Where the services of the threads lie, for those that are made to fail. */
  readonly workers?: { readonly storage: URL; readonly engine: URL };
  /** How long a small write may take, its turn included. */
  readonly writeLimitMs?: number;
  /** How long a thread may not get to its messages before it is ended. */
  readonly stuckMs?: ThreadOptions<object>['stuckMs'];
}

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

/** Something that others should know of: which collection has other documents, or that a list has changed. */
export interface ServerEvent {
  readonly kind: 'collections' | 'documents' | 'indexes' | 'pipelines' | 'runs';
  readonly collection?: string;
}

/** How long the engine may take to let go of the file when the server stops. */
const closingMs = 3_000;
/** A small write that takes longer than this is one that hangs. */
const writeLimitByDefault = 120_000;

/**
 * Joins the two threads: storage first, then the engine, so that what the engine answers is always on disk. Knows
 * the collections by name, and lets one change at a time go at each.
 */
export class Hub {
  /** Tells one start of the server from another. */
  readonly startId = randomUUID();
  readonly storage: Thread<StorageService>;
  readonly engine: Thread<EngineService>;
  private readonly collections = new Map<string, StoredCollection>();
  private readonly turns = new Map<string, Mutex>();
  private readonly views = new Map<string, View>();

  readonly undoBytes: number;
  readonly writeLimitMs: number;
  readonly log: Logger;
  readonly checks = new Checks(this);
  /** Keeps runs as they end. */
  readonly runLog = new RunLog(this);
  /** Guards that hold where a run gives none. */
  guards: Settings['guards'] = defaultGuards;
  private readonly listeners = new Set<(event: ServerEvent) => void>();

  private constructor({ file, memoryBytes, undoBytes, log, workers, writeLimitMs = writeLimitByDefault, stuckMs }: HubOptions) {
    this.undoBytes = undoBytes;
    this.writeLimitMs = writeLimitMs;
    this.log = log;
    this.storage = new Thread<StorageService>({
      name: 'storage',
      ...(stuckMs && { stuckMs }),
      url: workers?.storage ?? new URL('./storage/storageWorker.js', import.meta.url),
      heapMegabytes: 2_048,
      youngMegabytes: 128,
      begin: async (service) => {
        unwrap(await service.open(file, undoBytes));
        this.take(await service.collections());
        // Who has looked before it failed has seen what was then.
        if (this.storage.restarts > 0) this.tell({ kind: 'collections' });
      },
    });
    // The heap holds the documents, what queries hold, and the indexes.
    const heap = Math.ceil(memoryBytes / 1024 / 1024) + 1_536;
    this.engine = new Thread<EngineService>({
      name: 'engine',
      ...(stuckMs && { stuckMs }),
      url: workers?.engine ?? new URL('./engine/engineWorker.js', import.meta.url),
      heapMegabytes: heap,
      // With 128, each look took 40 to 80 ms beside a heavy group, in which nobody else was answered.
      youngMegabytes: 32,
      begin: async (service) => {
        await this.storage.started();
        await service.open(file, memoryBytes);
        await service.setViews([...this.views]);
      },
    });
  }

  /** @throws ServerProblem, Error where the file cannot be used */
  static async open(options: HubOptions): Promise<Hub> {
    const hub = new Hub(options);
    try {
      await hub.storage.started();
      await hub.engine.started();
      await hub.relistViews();
      hub.guards = (await hub.storage.call((storage) => storage.settings())).guards;
    } catch (error) {
      await hub.engine.close();
      await hub.storage.close();
      throw error;
    }
    return hub;
  }

  /** Tells of what changes from now on. @returns how to end it */
  listen(listener: (event: ServerEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  tell(event: ServerEvent): void {
    for (const listener of this.listeners) listener(event);
  }

  async close(): Promise<void> {
    await this.runLog.flush().catch(() => undefined);
    const soon = new Promise((resolve) => setTimeout(resolve, closingMs));
    await Promise.race([this.engine.call((engine) => engine.close()).catch(() => undefined), soon]);
    await this.storage.call((storage) => storage.close()).catch(() => undefined);
    await this.engine.close();
    await this.storage.close();
  }

  /** Reads the list of collections anew. Where the storage fails at it, it begins anew, and tells it then. */
  private async relist(): Promise<void> {
    try {
      this.take(await this.storage.call((storage) => storage.collections()));
    } catch (error) {
      this.log.warn({ err: error }, 'the list of collections could not be read');
    }
  }

  private take(listed: readonly StoredCollection[]): void {
    this.collections.clear();
    for (const collection of listed) this.collections.set(collection.name, collection);
  }

  /** Reads the views anew, and tells the engine. */
  async relistViews(): Promise<void> {
    const saved = await this.storage.call((storage) => storage.pipelines());
    this.views.clear();
    for (const { name, pipeline, parameters, view } of saved) if (view) this.views.set(name, { pipeline, parameters });
    await this.engine.call((engine) => engine.setViews([...this.views]));
  }

  get viewList(): (readonly [string, View])[] {
    return [...this.views];
  }

  /** What a pipeline may read: collections and views. */
  get sourceNames(): string[] {
    return [...this.collections.keys(), ...this.views.keys()];
  }

  /** The collections that a pipeline reads in the end, as far as there are any. */
  sourcesFor(pipeline: string): StoredCollection[] {
    return collectionsRead(pipeline, this.views).flatMap((name) => this.collections.get(name) ?? []);
  }

  get names(): string[] {
    return [...this.collections.keys()];
  }

  get stored(): StoredCollection[] {
    return [...this.collections.values()];
  }

  list(): CollectionInfo[] {
    return [...this.collections.values()].map(infoOf);
  }

  find(name: string | undefined): StoredCollection | null {
    return (name !== undefined && this.collections.get(name)) || null;
  }

  /** @throws ServerProblem where there is none */
  collection(name: string): StoredCollection {
    const found = this.collections.get(name);
    if (found === undefined) throw new ServerProblem('/not-found', `There is no collection ${name}.`);
    return found;
  }

  /**
   * The one way to write documents, indexes and collections: one write of a collection at a time, from the file to the engine's
   * knowing of it. The turn is held while writing, and never while waiting for whoever asked. Where the engine fails after it has been
   * stored, what it has in memory goes, and is read again from the file: the write has been made all the same.
   */
  async commit<T>({ collection: name, once, kind = 'documents', store, follow }: Commit<T>): Promise<T> {
    // Refused before a turn is kept for it; what has been made already may have taken the collection's name away.
    if (once === undefined) this.collection(name);
    return this.turnOf(name).runExclusive(async () => {
      const before = once && unwrap(await this.storage.call((storage) => storage.answered(once)));
      if (before) return before.value as T;
      const collection = this.collection(name);
      let stored: T;
      try {
        stored = await store(collection);
      } catch (error) {
        // Where the storage ended amid it, it may be stored or not: the file knows.
        if (isLost(error)) await this.forget(collection);
        await this.relist();
        throw error;
      }
      await this.relist();
      await this.letFollow(collection, (engine) => follow?.(engine, stored, collection));
      this.tell({ kind, collection: name });
      return stored;
    });
  }

  /** Works with a collection while nobody writes it. */
  async quietly<T>(name: string, work: (collection: StoredCollection) => Promise<T>): Promise<T> {
    this.collection(name);
    return this.turnOf(name).runExclusive(async () => {
      await this.relist();
      return work(this.collection(name));
    });
  }

  private turnOf(name: string): Mutex {
    let turn = this.turns.get(name);
    if (turn === undefined) {
      // Of collections that are gone nobody needs a turn; one that somebody waits for is kept by those that wait.
      for (const [other, held] of this.turns) if (!held.isLocked() && !this.collections.has(other)) this.turns.delete(other);
      this.turns.set(name, (turn = new Mutex()));
    }
    return turn;
  }

  private async letFollow(collection: StoredCollection, follow: (engine: Remote<EngineService>) => unknown): Promise<void> {
    try {
      await this.engine.call((engine) => follow(engine));
    } catch (error) {
      this.log.warn({ err: error, collection: collection.name }, 'stored, and the engine could not follow: it reads the collection again');
      await this.forget(collection);
    }
  }

  /** Sees to it that the engine reads a collection again. Where it cannot be told, it has ended, and has forgotten all. */
  private async forget(collection: StoredCollection): Promise<void> {
    try {
      await this.engine.call((engine) => engine.forget(collection));
    } catch {
      await this.engine.restart();
    }
  }

  async create(name: string, identity: string, scratch: boolean, once?: Once): Promise<CollectionInfo> {
    if (this.views.has(name)) throw new ServerProblem('/exists', `There is a view ${name} already.`);
    const made = unwrap(await this.storage.call((storage) => storage.createCollection(name, identity, scratch), { once }));
    await this.relist();
    this.tell({ kind: 'collections' });
    return this.list().find((one) => one.name === name) ?? made;
  }

  async rename(name: string, next: string, once?: Once): Promise<CollectionInfo> {
    await this.commit({
      collection: name,
      once,
      kind: 'collections',
      store: async ({ id }) => unwrap(await this.storage.call((storage) => storage.renameCollection(id, next), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    return infoOf(this.collection(next));
  }

  /** Gives an empty collection another identity. */
  async setIdentity(name: string, identity: string): Promise<void> {
    await this.commit({
      collection: name,
      kind: 'collections',
      store: async ({ id }) => unwrap(await this.storage.call((storage) => storage.setIdentity(id, identity))),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
  }

  /** Removes all documents of a collection. */
  async clear(name: string, once?: Once): Promise<number> {
    const removed = await this.commit({
      collection: name,
      once,
      store: async ({ id }) => unwrap(await this.storage.call((storage) => storage.clearCollection(id), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    this.giveBack();
    return removed;
  }

  async remove(name: string, once?: Once): Promise<void> {
    await this.commit({
      collection: name,
      once,
      kind: 'collections',
      store: async ({ id }) => unwrap(await this.storage.call((storage) => storage.removeCollection(id), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    this.giveBack();
  }

  /** Lets the file become smaller, when there is time. */
  private giveBack(): void {
    this.storage.call((storage) => storage.giveBack()).catch((error: unknown) => this.log.warn({ err: error }, 'no space was given back'));
  }

  /** Asks unique indexes before documents are committed; nothing to ask where there are none. */
  checkFor(collection: StoredCollection): Check | null {
    if (!hasUnique(collection)) return null;
    return (puts: readonly TextPut[]) => this.engine.call((engine) => engine.check(collection, puts));
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
          await this.storage.call((storage) => write(storage, collection, this.checkFor(collection)), { once, limitMs: this.writeLimitMs }),
        ),
      follow: (engine, { puts }, collection) => engine.apply(collection, puts),
    });
  }

  /**
   * Runs something that can be cancelled in the engine: it looks at the flag, and is waited for. Where it is stuck, so that it
   * does not, its thread is ended for it.
   */
  ask<R>(flag: CancelFlag, work: (engine: Remote<EngineService>) => R): Promise<Awaited<R>> {
    return this.engine.call(work, { cancel: flag });
  }
}

/** Whether it is not known what came of something. */
function isLost(error: unknown): boolean {
  return !(error instanceof ServerProblem) || error.problem.type.endsWith('/restarted');
}

export function hasUnique({ indexes }: StoredCollection): boolean {
  return indexes.some(({ definition }) => (JSON.parse(definition) as { unique?: boolean }).unique === true);
}

export function infoOf({ name, identity, count, bytes, scratch }: StoredCollection): CollectionInfo {
  return { name, identity, count, bytes, scratch };
}
