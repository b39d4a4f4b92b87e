import { keepWholeSums, type JsonObject, type WholeSum } from '@zesty-sieve/core';
import type { Database } from '../storage/database.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { tableOf } from '../storage/table.ts';

const documentsAtOnce = 2_000;

type Put = (position: number, document: JsonObject) => void;

/** The file, and the one beside it in which scratch collections lie. */
export interface Databases {
  readonly main: Database;
  readonly scratch: Database;
}

/** Reads documents out of the file. */
export class DocumentReader {
  private readonly databases: Databases;

  constructor(databases: Databases) {
    this.databases = databases;
  }

  private of({ scratch }: StoredCollection): Database {
    return scratch ? this.databases.scratch : this.databases.main;
  }

  /**
   * Reads documents by position from the database. The database joins the texts of many, and they are parsed as one
   * array, which is far cheaper than a row and a parse for each; the next part is fetched while one is parsed.
   */
  async read(
    stored: StoredCollection,
    { from, to }: { readonly from: number; readonly to: number },
    put: Put,
    onProgress: (documents: number) => void = () => undefined,
  ): Promise<void> {
    const table = tableOf(stored.id);
    const fetch = (after: number) =>
      this.of(stored).first<{ positions: string; bodies: string; last: number; count: number }>(
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
      for (let i = 0; i < parsed.length; i++) put(positions === undefined ? first + i : Number(positions[i]), parsed[i]!);
      documents += part.count;
      onProgress(documents);
    }
  }

  /** Gives the rows of a view what their sums were before they were rounded. @returns how many had some */
  async readSums({ id }: StoredCollection, rowAt: (position: number) => JsonObject | undefined): Promise<number> {
    let count = 0;
    for (let after = -1; ;) {
      const part = await this.databases.main.all<{ position: number; sums: string }>(
        `SELECT position, sums FROM wholeSums WHERE collectionId = ? AND position > ? ORDER BY position LIMIT ${documentsAtOnce}`,
        [id, after],
      );
      for (const { position, sums } of part) {
        const row = rowAt(position);
        if (row === undefined) continue;
        keepWholeSums(row, JSON.parse(sums) as WholeSum[]);
        count++;
      }
      if (part.length < documentsAtOnce) return count;
      after = part.at(-1)!.position;
    }
  }

  /** Reads single documents from the database: those of many positions in a few statements. */
  async readAt(stored: StoredCollection, positions: readonly number[], put: Put): Promise<void> {
    for (let i = 0; i < positions.length; i += documentsAtOnce) {
      const rows = await this.of(stored).all<{ position: number; body: string }>(
        `SELECT d.position AS position, d.body AS body FROM json_each(?) p JOIN ${tableOf(stored.id)} d ON d.position = p.value`,
        [JSON.stringify(positions.slice(i, i + documentsAtOnce))],
      );
      for (const { position, body } of rows) put(position, JSON.parse(body) as JsonObject);
    }
  }
}
