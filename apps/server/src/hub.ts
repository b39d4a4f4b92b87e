import { Mutex } from 'async-mutex';
import * as Comlink from 'comlink';
import type { CollectionInfo, Settings } from '@zesty-sieve/contract';
import { defaultGuards } from '@zesty-sieve/core';
import { collectionsRead, type View } from '@zesty-sieve/core/language';
import { Checks } from './checks.ts';
import { Thread } from './threads/thread.ts';
import type { EngineService } from './engine/engineService.ts';
import { unwrap, ServerProblem } from './problem.ts';
import { RunLog } from './runLog.ts';
import type { StorageService } from './storage/storageService.ts';
import type { Check, StoredCollection, TextPut } from './storage/stored.ts';

export interface HubOptions {
  readonly file: string;
  /** Bytes of parsed documents that may be in memory. */
  readonly memoryBytes: number;
  /** Bytes of replaced documents that are kept so that changes can be taken back. */
  readonly undoBytes: number;
}

/** Something that others should know of: which collection has other documents, or that a list has changed. */
export interface ServerEvent {
  readonly kind: 'collections' | 'documents' | 'indexes' | 'pipelines' | 'runs';
  readonly collection?: string;
}

/**
 * How long an ended run may take to notice before its thread is ended for it. Ending it makes every collection be read
 * again, so a machine that is only slow gets its time.
 */
const graceMs = 10_000;
/** How long the engine may take to let go of the file when the server stops. */
const closingMs = 3_000;

/** A flag that threads share; not zero means: end. */
export class CancelFlag {
  readonly buffer = new SharedArrayBuffer(4);
  private readonly view = new Int32Array(this.buffer);
  cancel(): void {
    Atomics.store(this.view, 0, 1);
  }
  get isCancelled(): boolean {
    return Atomics.load(this.view, 0) !== 0;
  }
}

/**
 * Joins the two threads: storage first, then the engine, so that what the engine answers is always on disk. Knows
 * the collections by name, and lets one change at a time go at each.
 */
export class Hub {
  readonly storage: Thread<StorageService>;
  readonly engine: Thread<EngineService>;
  private readonly collections = new Map<string, StoredCollection>();
  private readonly turns = new Map<string, Mutex>();
  private readonly views = new Map<string, View>();

  readonly undoBytes: number;
  readonly checks = new Checks(this);
  /** Keeps runs as they end. */
  readonly runLog = new RunLog(this);
  /** Guards that hold where a run gives none. */
  guards: Settings['guards'] = defaultGuards;
  private readonly listeners = new Set<(event: ServerEvent) => void>();

  private constructor({ file, memoryBytes, undoBytes }: HubOptions) {
    this.undoBytes = undoBytes;
    this.storage = new Thread<StorageService>(new URL('./storage/storageWorker.js', import.meta.url), 2_048, async (service) => {
      unwrap(await service.open(file, undoBytes));
    });
    // The heap holds the documents, what queries hold, and the indexes.
    const heap = Math.ceil(memoryBytes / 1024 / 1024) + 1_536;
    this.engine = new Thread<EngineService>(new URL('./engine/engineWorker.js', import.meta.url), heap, async (service) => {
      await this.storage.started();
      await service.open(file, memoryBytes);
      await service.setViews([...this.views]);
    });
  }

  static async open(options: HubOptions): Promise<Hub> {
    const hub = new Hub(options);
    await hub.storage.started();
    await hub.engine.started();
    await hub.relist();
    await hub.relistViews();
    hub.guards = (await hub.storage.call((storage) => storage.settings())).guards;
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

  private async relist(): Promise<void> {
    const listed = await this.storage.call((storage) => storage.collections());
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

  /** Lets one change of a collection be made at a time, from the check to the engine's knowing of it. */
  change<T>(name: string, work: (collection: StoredCollection) => Promise<T>, kind: ServerEvent['kind'] = 'documents'): Promise<T> {
    let turn = this.turns.get(name);
    if (turn === undefined) this.turns.set(name, (turn = new Mutex()));
    return turn.runExclusive(async () => {
      try {
        const done = await work(this.collection(name));
        await this.relist();
        this.tell({ kind, collection: name });
        return done;
      } catch (error) {
        await this.relist();
        throw error;
      }
    });
  }

  async create(name: string, identity: string, scratch: boolean): Promise<CollectionInfo> {
    if (this.views.has(name)) throw new ServerProblem('/exists', `There is a view ${name} already.`);
    unwrap(await this.storage.call((storage) => storage.createCollection(name, identity, scratch)));
    await this.relist();
    this.tell({ kind: 'collections' });
    return infoOf(this.collection(name));
  }

  async rename(name: string, next: string): Promise<CollectionInfo> {
    await this.change(
      name,
      async ({ id }) => {
        unwrap(await this.storage.call((storage) => storage.renameCollection(id, next)));
        await this.engine.call((engine) => engine.forget(name));
      },
      'collections',
    );
    return infoOf(this.collection(next));
  }

  /** Gives an empty collection another identity. */
  async setIdentity(name: string, identity: string): Promise<void> {
    const work = async ({ id }: StoredCollection) => {
      unwrap(await this.storage.call((storage) => storage.setIdentity(id, identity)));
      await this.engine.call((engine) => engine.forget(name));
    };
    await this.change(name, work, 'collections');
  }

  /** Removes all documents of a collection. */
  clear(name: string): Promise<number> {
    return this.change(name, async ({ id }) => {
      const removed = unwrap(await this.storage.call((storage) => storage.clearCollection(id)));
      await this.engine.call((engine) => engine.forget(name));
      return removed;
    });
  }

  remove(name: string): Promise<void> {
    return this.change(name, async ({ id }) => {
      unwrap(await this.storage.call((storage) => storage.removeCollection(id)));
      await this.engine.call((engine) => engine.forget(name));
    }, 'collections'); // prettier-ignore
  }

  /** Asks unique indexes before documents are committed; nothing to ask where there are none. */
  checkFor(collection: StoredCollection): Check | null {
    if (!hasUnique(collection)) return null;
    return Comlink.proxy((puts: readonly TextPut[]) => this.engine.call((engine) => engine.check(collection, puts)));
  }

  applied(name: string, puts: readonly TextPut[]): Promise<void> {
    return this.engine.call((engine) => engine.apply(name, puts));
  }

  /**
   * Runs something that can be cancelled in the engine. Where a cancelled run does not come to its end by itself, the
   * thread is ended for it; collections come back from the database when they are asked about.
   */
  async cancellable<T>(flag: CancelFlag, onCancel: (cancel: () => void) => void, work: () => Promise<T>): Promise<T> {
    let timer: NodeJS.Timeout | undefined;
    onCancel(() => {
      flag.cancel();
      timer ??= setTimeout(() => void this.engine.restart(), graceMs);
    });
    try {
      return await work();
    } finally {
      clearTimeout(timer);
    }
  }
}

export function hasUnique({ indexes }: StoredCollection): boolean {
  return indexes.some(({ definition }) => (JSON.parse(definition) as { unique?: boolean }).unique === true);
}

export function infoOf({ name, identity, count, bytes, scratch }: StoredCollection): CollectionInfo {
  return { name, identity, count, bytes, scratch };
}
