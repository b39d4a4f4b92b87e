import { randomUUID } from 'node:crypto';
import type { Settings } from '@zesty-sieve/contract';
import { defaultGuards } from '@zesty-sieve/core';
import type { Logger } from 'pino';
import { Catalog } from './catalog.ts';
import { Checks } from './checks.ts';
import { CollectionDesk } from './collectionDesk.ts';
import { Commits } from './commits.ts';
import { Events } from './events.ts';
import { Materialized } from './materialized/materialized.ts';
import type { CancelFlag } from './threads/cancelFlag.ts';
import { Thread, type Remote, type ThreadOptions } from './threads/thread.ts';
import type { EngineService } from './engine/engineService.ts';
import { unwrap } from './problem.ts';
import { Publisher } from './publishing/publisher.ts';
import { RunLog } from './runLog.ts';
import type { StorageService } from './storage/storageService.ts';
import { WorkList } from './work.ts';

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

/** How long the engine may take to let go of the file when the server stops. */
const closingMs = 3_000;
/** A small write that takes longer than this is one that hangs. */
const writeLimitByDefault = 120_000;

/**
 * Joins the two threads with what stands on both: the catalog of what there is, the one way to write, and what others are told.
 */
export class Hub {
  /** Tells one start of the server from another. */
  readonly startId = randomUUID();
  readonly storage: Thread<StorageService>;
  readonly engine: Thread<EngineService>;
  readonly catalog: Catalog;
  readonly events = new Events();
  readonly work = new WorkList(this.events);
  readonly commits: Commits;
  readonly collections: CollectionDesk;
  private memoryBytes: number;
  readonly undoBytes: number;
  readonly writeLimitMs: number;
  readonly log: Logger;
  readonly checks = new Checks(this);
  /** Saved pipelines whose rows are kept. */
  readonly materialized = new Materialized(this);
  /** Saved pipelines that are answered for others. */
  readonly publisher = new Publisher(this);
  /** Keeps runs as they end. */
  readonly runLog = new RunLog(this);
  /** Guards that hold where a run gives none. */
  guards: Settings['guards'] = defaultGuards;

  private constructor({ file, memoryBytes, undoBytes, log, workers, writeLimitMs = writeLimitByDefault, stuckMs }: HubOptions) {
    this.memoryBytes = memoryBytes;
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
        this.catalog.take(await service.collections());
        // Who has looked before it failed has seen what was then.
        if (this.storage.restarts > 0) this.events.tell({ kind: 'collections' });
      },
    });
    this.catalog = new Catalog(this.storage, () => this.engine, log);
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
        await service.open(file, this.memoryBytes);
        await service.setViews(this.catalog.viewList);
        await service.setKeptViews(this.materialized.toldAnew());
      },
    });
    const path = { storage: this.storage, engine: this.engine, catalog: this.catalog, events: this.events, log, writeLimitMs };
    this.commits = new Commits(path);
    this.collections = new CollectionDesk(path, this.commits);
  }

  /** @throws ServerProblem, Error where the file cannot be used */
  static async open(options: HubOptions): Promise<Hub> {
    const hub = new Hub(options);
    try {
      await hub.storage.started();
      await hub.engine.started();
      await hub.catalog.relistViews();
      hub.catalog.onRead = () => hub.materialized.tell();
      hub.commits.onWritten = (collection) => hub.materialized.following.after(collection);
      hub.materialized.tell();
      hub.materialized.begin();
      await hub.publisher.begin();
      hub.guards = (await hub.storage.call((storage) => storage.settings())).guards;
    } catch (error) {
      await hub.engine.close();
      await hub.storage.close();
      throw error;
    }
    return hub;
  }

  /** How many bytes of parsed documents may be in memory from now on. */
  async setMemory(bytes: number): Promise<void> {
    this.memoryBytes = bytes;
    await this.engine.call((engine) => engine.setBudget(bytes));
  }

  async close(): Promise<void> {
    await this.materialized.close();
    await this.publisher.close();
    await this.runLog.flush().catch(() => undefined);
    await this.engine.close((engine) => engine.close(), closingMs);
    await this.storage.close((storage) => storage.close());
  }

  /**
   * Runs something that can be cancelled in the engine: it looks at the flag, and is waited for. Where it is stuck, so that it
   * does not, its thread is ended for it.
   */
  ask<R>(flag: CancelFlag, work: (engine: Remote<EngineService>) => R): Promise<Awaited<R>> {
    return this.engine.call(work, { cancel: flag });
  }
}
