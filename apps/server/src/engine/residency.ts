import {
  Collection,
  IndexProblem,
  readDefinition,
  UniqueViolation,
  type Engine,
  type IndexRequest,
  type JsonObject,
} from '@zesty-sieve/core';
import type { Database } from '../storage/database.ts';
import { tableOf } from '../storage/table.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { ServerProblem } from '../problem.ts';

/** Parsed documents take about so many times the bytes of their text. */
const growth = 4;
const documentsAtOnce = 2_000;

export interface LoadProgress {
  readonly collection: string;
  readonly documents: number;
  readonly of: number;
}

/** A collection may be removed while it is being read. */
function goneOr(name: string): (error: Error) => never {
  return (error) => {
    throw error.message.includes('no such table') ? new ServerProblem('/not-found', `There is no collection ${name}.`) : error;
  };
}

/** A collection on its way into memory. */
interface Load {
  done: Promise<void>;
  /** What was committed meanwhile, in its order. */
  readonly missed: ((collection: Collection) => Promise<void> | void)[];
  /** Whether the collection was forgotten meanwhile, so that what has been read is of no use. */
  isStale: boolean;
}

/** An index that is not as it was asked for, and why. */
export interface IndexTrouble {
  readonly index: string;
  readonly reason: string;
}

/** Keeps the collections that are asked about in memory, within a budget; those not used longest leave first. */
export class Residency {
  private readonly loading = new Map<string, Load>();
  /** In the order of last use. */
  private readonly used = new Map<string, number>();
  private readonly engine: Engine;
  private readonly database: Database;
  private readonly budgetBytes: number;
  private readonly pause: () => Promise<void>;
  readonly progress = new Map<string, LoadProgress>();
  /** Indexes that were asked for and cannot be used as they were, by collection. */
  private readonly troubles = new Map<string, readonly IndexTrouble[]>();

  constructor(engine: Engine, database: Database, budgetBytes: number, pause: () => Promise<void>) {
    this.engine = engine;
    this.database = database;
    this.budgetBytes = budgetBytes;
    this.pause = pause;
  }

  /** Sees to it that a collection is in memory, with its indexes. */
  async ensure(stored: StoredCollection): Promise<Collection> {
    while (!this.used.has(stored.name)) {
      const there = this.loading.get(stored.name);
      if (there !== undefined) {
        await there.done;
        continue;
      }
      const load: Load = { missed: [], isStale: false, done: Promise.resolve() };
      this.loading.set(stored.name, load);
      load.done = this.load(stored, load)
        .catch(goneOr(stored.name))
        .finally(() => {
          if (this.loading.get(stored.name) === load) this.loading.delete(stored.name);
        });
      await load.done;
    }
    this.touch(stored.name);
    const collection = this.engine.collections.get(stored.name);
    if (collection === undefined) throw new ServerProblem('/not-found', `There is no collection ${stored.name}.`);
    return collection;
  }

  /** Sees to it that several collections are in memory at once. */
  async ensureAll(sources: readonly StoredCollection[]): Promise<void> {
    for (const stored of sources) await this.ensure(stored);
    const gone = sources.find(({ name }) => !this.isResident(name));
    if (gone !== undefined) {
      throw new ServerProblem(
        '/collection-too-large',
        `${sources.map(({ name }) => name).join(' and ')} do not fit in memory together. Start the server with a larger ZESTY_SIEVE_MEMORY_MB.`,
      );
    }
  }

  isResident(name: string): boolean {
    return this.used.has(name);
  }

  troublesOf(name: string): readonly IndexTrouble[] {
    return this.troubles.get(name) ?? [];
  }

  /**
   * Lets a collection in memory follow what has been committed: now, or, where it is being loaded, when it has been; what is
   * read of it meanwhile may be from before. One that is neither needs nothing: it is read when it is asked about.
   */
  async follow(name: string, work: (collection: Collection) => Promise<void> | void): Promise<void> {
    const load = this.loading.get(name);
    if (load !== undefined) {
      load.missed.push(work);
      return;
    }
    const collection = this.used.has(name) ? this.engine.collections.get(name) : undefined;
    if (collection !== undefined) await work(collection);
  }

  forget(name: string): void {
    const load = this.loading.get(name);
    if (load !== undefined) load.isStale = true;
    this.loading.delete(name);
    this.troubles.delete(name);
    this.used.delete(name);
    this.engine.remove(name);
  }

  private touch(name: string): void {
    const bytes = this.used.get(name) ?? 0;
    this.used.delete(name);
    this.used.set(name, bytes);
  }

  private async load(stored: StoredCollection, load: Load): Promise<void> {
    const needed = stored.bytes * growth;
    if (needed > this.budgetBytes) {
      const mb = (bytes: number) => Math.ceil(bytes / 1024 / 1024).toLocaleString('en');
      throw new ServerProblem(
        '/collection-too-large',
        `${stored.name} would need about ${mb(needed)} MB in memory, and ${mb(this.budgetBytes)} MB are allowed. Start the server with a larger ZESTY_SIEVE_MEMORY_MB, or keep fewer documents in the collection.`,
      );
    }
    this.makeRoom(needed);
    // Nobody else sees it before it is whole.
    const collection = new Collection(stored.name, stored.identity);
    await this.read(stored, 0, Infinity, (position, document) => collection.store.put(position, document));
    const troubles: IndexTrouble[] = [];
    for (const { name, definition } of stored.indexes) {
      const reason = await this.buildIndex(collection, JSON.parse(definition) as IndexRequest);
      if (reason !== undefined) troubles.push({ index: name, reason });
    }
    // What comes while it is being followed is followed too.
    for (let next = load.missed.shift(); next !== undefined && !load.isStale; next = load.missed.shift()) await next(collection);
    this.progress.delete(stored.name);
    if (load.isStale) return;
    this.engine.adopt(collection);
    this.troubles.set(stored.name, troubles);
    this.used.set(stored.name, needed);
  }

  /**
   * Builds an index that was asked for once. One that cannot be as it was asked for keeps nobody from the documents.
   * @returns why it is not as it was asked for
   */
  private async buildIndex(collection: Collection, request: IndexRequest): Promise<string | undefined> {
    try {
      await collection.buildIndex(readDefinition(request), this.pause);
      return undefined;
    } catch (error) {
      if (error instanceof IndexProblem) return `It is not used. ${error.message}`;
      if (!(error instanceof UniqueViolation)) throw error;
      await collection.buildIndex(readDefinition({ ...request, unique: false }), this.pause);
      const values = error.values.map((value) => JSON.stringify(value) ?? 'nothing').join(', ');
      return `Several documents have ${values}, so that it is not unique. It is used as one that is not; make the documents different, and build it anew.`;
    }
  }

  private makeRoom(needed: number): void {
    let held = [...this.used.values()].reduce((sum, bytes) => sum + bytes, 0);
    for (const [name, bytes] of this.used) {
      if (held + needed <= this.budgetBytes) return;
      this.forget(name);
      held -= bytes;
    }
  }

  /**
   * Reads documents by position from the database. The database joins the texts of many, and they are parsed as one
   * array, which is far cheaper than a row and a parse for each; the next part is fetched while one is parsed.
   */
  async read(stored: StoredCollection, from: number, to: number, put: (position: number, document: JsonObject) => void): Promise<void> {
    const table = tableOf(stored.id);
    const fetch = (after: number) =>
      this.database.first<{ positions: string; bodies: string; last: number; count: number }>(
        `SELECT group_concat(position) AS positions, group_concat(body, ',') AS bodies, max(position) AS last, count(*) AS count
         FROM (SELECT position, body FROM ${table} WHERE position >= ? AND position < ? ORDER BY position LIMIT ${documentsAtOnce})`,
        [after, Number.isFinite(to) ? to : Number.MAX_SAFE_INTEGER],
      );
    let documents = 0;
    let next = fetch(from);
    for (;;) {
      const part = await next;
      if (part === undefined || part.count === 0) return;
      next = fetch(part.last + 1);
      const parsed = JSON.parse(`[${part.bodies}]`) as JsonObject[];
      const first = part.last - part.count + 1;
      const dense = part.positions.startsWith(`${first},`) || part.count === 1;
      const positions = dense ? undefined : part.positions.split(',');
      for (let i = 0; i < parsed.length; i++) put(positions === undefined ? first + i : Number(positions[i]), parsed[i]);
      documents += part.count;
      this.progress.set(stored.name, { collection: stored.name, documents, of: stored.count });
    }
  }
}
