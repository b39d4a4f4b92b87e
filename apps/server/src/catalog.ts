import type { CollectionInfo } from '@zesty-sieve/contract';
import { collectionsRead, type View } from '@zesty-sieve/core/language';
import type { Logger } from 'pino';
import type { EngineService } from './engine/engineService.ts';
import { ServerProblem } from './problem.ts';
import type { StorageService } from './storage/storageService.ts';
import type { StoredCollection } from './storage/stored.ts';
import type { Thread } from './threads/thread.ts';

/** What there is, by name: collections as the file has them, and the saved pipelines that can be read as sources. */
export class Catalog {
  private readonly collections = new Map<string, StoredCollection>();
  private readonly views = new Map<string, View>();
  private readonly storage: Thread<StorageService>;
  private readonly engine: () => Thread<EngineService>;
  private readonly log: Logger;

  /** @param engine is told of views; it is there once it is first asked for */
  constructor(storage: Thread<StorageService>, engine: () => Thread<EngineService>, log: Logger) {
    this.storage = storage;
    this.engine = engine;
    this.log = log;
  }

  /** Reads the list of collections anew. Where the storage fails at it, it begins anew, and tells it then. */
  async relist(): Promise<void> {
    try {
      this.take(await this.storage.call((storage) => storage.collections()));
    } catch (error) {
      this.log.warn({ err: error }, 'the list of collections could not be read');
    }
  }

  take(listed: readonly StoredCollection[]): void {
    this.collections.clear();
    for (const collection of listed) this.collections.set(collection.name, collection);
  }

  /** Reads the views anew, and tells the engine. */
  async relistViews(): Promise<void> {
    const saved = await this.storage.call((storage) => storage.pipelines());
    this.views.clear();
    for (const { name, pipeline, parameters, view } of saved) if (view) this.views.set(name, { pipeline, parameters });
    await this.engine().call((engine) => engine.setViews([...this.views]));
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

  isView(name: string): boolean {
    return this.views.has(name);
  }
}

export function infoOf({ name, identity, count, bytes, scratch }: StoredCollection): CollectionInfo {
  return { name, identity, count, bytes, scratch };
}
