import type { CollectionInfo } from '@zesty-sieve/contract';
import type { IndexRequest } from '@zesty-sieve/core';
import { collectionsRead, type View } from '@zesty-sieve/core/language';
import type { Logger } from 'pino';
import type { EngineService } from './engine/engineService.ts';
import { ServerProblem } from './problem.ts';
import type { StorageService } from './storage/storageService.ts';
import type { StoredView } from './storage/rooms/materialized.ts';
import type { StoredCollection } from './storage/stored.ts';
import type { Thread } from './threads/thread.ts';

/** What there is, by name: collections as the file has them, and the saved pipelines that can be read as sources. */
export class Catalog {
  private readonly collections = new Map<string, StoredCollection>();
  private readonly views = new Map<string, View>();
  /** Views whose rows are not kept: read through to their collections. */
  readonly plainViews = new Map<string, View>();
  keptViews: readonly StoredView[] = [];
  /** Told whenever it has been read anew. */
  onRead: () => void = () => undefined;
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
      this.onRead();
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
    const [saved, kept] = await this.storage.call((storage) => Promise.all([storage.pipelines(), storage.materializedViews()]));
    this.keptViews = kept;
    this.views.clear();
    this.plainViews.clear();
    const isKept = new Set(kept.map(({ name }) => name));
    for (const { name, pipeline, parameters, view } of saved) {
      if (!view) continue;
      this.views.set(name, { pipeline, parameters });
      if (!isKept.has(name)) this.plainViews.set(name, { pipeline, parameters });
    }
    await this.engine().call((engine) => engine.setViews([...this.plainViews]));
    this.onRead();
  }

  /** Takes over what has been stored of a view, without reading all of them. */
  takeKept(name: string, stored: Pick<StoredView, 'madeOf' | 'refreshedAt' | 'failure'>): void {
    this.keptViews = this.keptViews.map((one) => (one.name === name ? { ...one, ...stored } : one));
  }

  /** Reads all of it anew. */
  async relistAll(): Promise<void> {
    await this.relist();
    await this.relistViews();
  }

  /** Every view by its name, whether or not its rows are kept. */
  get everyView(): ReadonlyMap<string, View> {
    return this.views;
  }

  /** The views that are read through: those whose rows are kept are collections to whoever reads them. */
  get viewList(): (readonly [string, View])[] {
    return [...this.plainViews];
  }

  /** What a pipeline may read: collections and views. */
  get sourceNames(): string[] {
    return [...new Set([...this.collections.keys(), ...this.views.keys()])];
  }

  /** The collections that a pipeline reads in the end, as far as there are any. */
  sourcesFor(pipeline: string): StoredCollection[] {
    return collectionsRead(pipeline, this.plainViews).flatMap((name) => this.collections.get(name) ?? []);
  }

  /** The collections whose documents the rows of a pipeline come from, through views whose rows are kept too. */
  sourcesThrough(pipeline: string): StoredCollection[] {
    return collectionsRead(pipeline, this.everyView).flatMap((name) => this.collections.get(name) ?? []);
  }

  get names(): string[] {
    return this.stored.map(({ name }) => name);
  }

  /** Collections of documents; the rows of views are none. */
  get stored(): StoredCollection[] {
    return [...this.collections.values()].filter(({ isView }) => !isView);
  }

  list(): CollectionInfo[] {
    return this.stored.map(infoOf);
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

export function infoOf({ name, identity, count, bytes, scratch, indexes }: StoredCollection): CollectionInfo {
  const kinds = indexes.map(({ definition }) => (JSON.parse(definition) as IndexRequest).kind ?? 'ordered');
  return { name, identity, count, bytes, scratch, indexKinds: [...new Set(kinds)] };
}
