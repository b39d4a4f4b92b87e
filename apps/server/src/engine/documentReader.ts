import { keepWholeSums, type JsonObject, type WholeSum } from '@zesty-sieve/core';
import type { Database } from '../storage/database.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { tableOf } from '../storage/table.ts';

const documentsAtOnce = 2_000;

type Put = (position: number, document: JsonObject) => void;

/**
 * Some documents, in the order of their positions. Those whose text is ASCII (`plain`) come apart from the others (`wide`),
 * both as bytes: a text of ASCII becomes one of JavaScript by copying it, any other letter by letter, five times as slow.
 */
interface Part {
  readonly count: number;
  readonly last: number;
  readonly plain: Buffer | null;
  readonly plainAt: string | null;
  readonly wide: Buffer | null;
  readonly wideAt: string | null;
}

function partOf(table: string): string {
  const some = (name: string, which: string) =>
    `CAST(group_concat(body, ',') FILTER (WHERE ${which}) AS BLOB) AS ${name}, group_concat(position) FILTER (WHERE ${which}) AS ${name}At`;
  return `SELECT count(*) AS count, max(position) AS last, ${some('plain', 'letters = bytes')}, ${some('wide', 'letters < bytes')}
    FROM (SELECT position, body, length(body) AS letters, octet_length(body) AS bytes FROM ${table}
          WHERE position >= ? AND position < ? ORDER BY position LIMIT ${documentsAtOnce})`;
}

/** Documents with their positions, rising. */
interface Placed {
  readonly positions: readonly number[];
  readonly documents: readonly JsonObject[];
}

const listed = <T>(text: string) => JSON.parse(`[${text}]`) as T[];
const plainOf = ({ plain, plainAt }: Part): Placed => ({
  positions: listed(plainAt ?? ''),
  documents: listed(plain?.toString('latin1') ?? ''),
});
const wideOf = ({ wide, wideAt }: Part): Placed => ({
  positions: listed(wideAt ?? ''),
  documents: listed(wide?.toString('utf8') ?? ''),
});

function putInOrder(some: Placed, others: Placed, put: Put): void {
  let next = 0;
  for (let i = 0; i < some.documents.length; i++) {
    const position = some.positions[i]!;
    for (; others.positions[next]! < position; next++) put(others.positions[next]!, others.documents[next]!);
    put(position, some.documents[i]!);
  }
  for (; next < others.documents.length; next++) put(others.positions[next]!, others.documents[next]!);
}

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
   * Reads documents by position from the database, in its order. The database joins the texts of many, and they are parsed
   * as one array, which is far cheaper than a row and a parse for each; the next part is fetched while one is parsed.
   */
  async read(
    stored: StoredCollection,
    { from, to }: { readonly from: number; readonly to: number },
    put: Put,
    onProgress: (documents: number) => void = () => undefined,
  ): Promise<void> {
    const statement = await this.of(stored).prepared(partOf(tableOf(stored.id)));
    const fetch = async (after: number) => (await statement.all<Part>([after, Number.isFinite(to) ? to : Number.MAX_SAFE_INTEGER]))[0];
    let next = fetch(from);
    try {
      let documents = 0;
      for (;;) {
        const part = await next;
        if (part === undefined || part.count === 0) return;
        next = fetch(part.last + 1);
        putInOrder(plainOf(part), wideOf(part), put);
        documents += part.count;
        onProgress(documents);
      }
    } finally {
      // What has been asked for ahead is waited for before its statement goes; what it would have said is of no more interest.
      await next.catch(() => undefined);
      await statement.finish();
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
