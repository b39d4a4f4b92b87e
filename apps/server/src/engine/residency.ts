import {
  IndexProblem,
  readDefinition,
  UniqueViolation,
  type Collection,
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

/** An index that is not as it was asked for, and why. */
export interface IndexTrouble {
  readonly index: string;
  readonly reason: string;
}

/** Keeps the collections that are asked about in memory, within a budget; those not used longest leave first. */
export class Residency {
  private readonly loading = new Map<string, Promise<void>>();
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
    if (!this.used.has(stored.name)) {
      let loading = this.loading.get(stored.name);
      if (loading === undefined) {
        loading = this.load(stored).finally(() => this.loading.delete(stored.name));
        this.loading.set(stored.name, loading);
      }
      await loading;
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

  forget(name: string): void {
    this.troubles.delete(name);
    this.used.delete(name);
    this.engine.remove(name);
  }

  private touch(name: string): void {
    const bytes = this.used.get(name) ?? 0;
    this.used.delete(name);
    this.used.set(name, bytes);
  }

  private async load(stored: StoredCollection): Promise<void> {
    const needed = stored.bytes * growth;
    if (needed > this.budgetBytes) {
      const mb = (bytes: number) => Math.ceil(bytes / 1024 / 1024).toLocaleString('en');
      throw new ServerProblem(
        '/collection-too-large',
        `${stored.name} would need about ${mb(needed)} MB in memory, and ${mb(this.budgetBytes)} MB are allowed. Start the server with a larger ZESTY_SIEVE_MEMORY_MB, or keep fewer documents in the collection.`,
      );
    }
    this.makeRoom(needed);
    const collection = this.engine.define(stored.name, stored.identity);
    await this.read(stored, 0, Infinity, (position, document) => collection.store.put(position, document));
    const troubles: IndexTrouble[] = [];
    for (const { name, definition } of stored.indexes) {
      const reason = await this.buildIndex(collection, JSON.parse(definition) as IndexRequest);
      if (reason !== undefined) troubles.push({ index: name, reason });
    }
    this.troubles.set(stored.name, troubles);
    this.used.set(stored.name, needed);
    this.progress.delete(stored.name);
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
