import { keepWholeSums, type JsonObject, type WholeSum } from '@zesty-sieve/core';
import type { Database } from '../storage/database.ts';
import type { StoredCollection } from '../storage/stored.ts';
import { tableOf } from '../storage/table.ts';

const documentsAtOnce = 2_000;
/** A part ends with the document that brings it above this; a document may have 16 MB, and a text of JavaScript 512. */
const bytesAtOnce = 64 * 1024 * 1024;
/**
 * All documents of a collection of no more letters are one text at most, whichever come together: with four bytes a letter SQLite's of
 * 1,000,000,000 bytes, with two units a letter JavaScript's.
 */
const smallBytes = 224 * 1024 * 1024;

type Put = (position: number, document: JsonObject) => void;

/**
 * Some documents, in the order of their positions. Those whose text is ASCII (`plain`) come apart from the others (`wide`): a text
 * of ASCII becomes one of JavaScript by copying it, any other letter by letter, five times as slow. Each part is an array in JSON
 * with its brackets, so that it is parsed as it comes, and not put together once more; null where it has nothing.
 */
interface Part {
  readonly count: number;
  readonly last: number;
  readonly plain: string | null;
  readonly plainAt: string | null;
  readonly wide: string | null;
  readonly wideAt: string | null;
}

/** The next documents of a collection, as many as are well together: so many, or fewer where they would be more than one text can hold. */
function partOf({ id, bytes, count }: StoredCollection): string {
  const isLarge = bytes > smallBytes;
  const most = isLarge ? Math.max(1, Math.min(documentsAtOnce, Math.ceil((bytesAtOnce / bytes) * count))) : documentsAtOnce;
  const some = `SELECT position, body, length(body) AS letters, octet_length(body) AS bytes FROM ${tableOf(id)}
    WHERE position >= ? AND position < ? ORDER BY position LIMIT ${most}`;
  const source = isLarge
    ? `(SELECT *, sum(bytes) OVER (ORDER BY position ROWS UNBOUNDED PRECEDING) AS upTo FROM (${some})) WHERE upTo - bytes < ${bytesAtOnce}`
    : `(${some})`;
  const listed = (what: string, which: string) => `'[' || group_concat(${what}) FILTER (WHERE ${which}) || ']'`;
  const named = (name: string, which: string) => `${listed('body', which)} AS ${name}, ${listed('position', which)} AS ${name}At`;
  return `SELECT count(*) AS count, max(position) AS last, ${named('plain', 'letters = bytes')}, ${named('wide', 'letters < bytes')} FROM ${source}`;
}

/** Documents with their positions, rising. */
interface Placed {
  readonly positions: readonly number[];
  readonly documents: readonly JsonObject[];
}

function placed(documents: string | null, positions: string | null): Placed {
  return { documents: JSON.parse(documents ?? '[]') as JsonObject[], positions: JSON.parse(positions ?? '[]') as number[] };
}

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
    const statement = await this.of(stored).prepared(partOf(stored));
    const fetch = async (after: number) => (await statement.all<Part>([after, Number.isFinite(to) ? to : Number.MAX_SAFE_INTEGER]))[0];
    let next = fetch(from);
    try {
      let documents = 0;
      for (;;) {
        const part = await next;
        if (part === undefined || part.count === 0) return;
        next = fetch(part.last + 1);
        putInOrder(placed(part.plain, part.plainAt), placed(part.wide, part.wideAt), put);
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
