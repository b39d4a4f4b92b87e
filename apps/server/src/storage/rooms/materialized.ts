import type { RefreshPolicy } from '@zesty-sieve/contract';
import type { Approximation, ViewNote } from '@zesty-sieve/core';
import { ServerProblem, type Reply } from '../../problem.ts';
import type { Connections } from '../connections.ts';
import type { Database, Row } from '../database.ts';
import type { RowPut } from '../stored.ts';
import { createTable, dropTable, tableOf } from '../table.ts';

/** What the rows of a view were made of: the text that said so, and the version of each collection, by its number. */
export interface MadeOf {
  readonly text: string;
  readonly versions: Readonly<Record<string, number>>;
}

export interface StoredView {
  /** Of the saved pipeline, and of the collection in which its rows lie. */
  readonly name: string;
  readonly collectionId: number;
  readonly refresh: RefreshPolicy;
  /** Null before its rows were made. */
  readonly madeOf: MadeOf | null;
  /** What was to be said of its lines when they were worked out. */
  readonly notes: readonly ViewNote[];
  /** How far they can be relied on, where they may lack some that belong to them. */
  readonly approximate: Approximation | null;
  readonly refreshedAt: string | null;
  readonly refreshMs: number | null;
  readonly failure: { readonly message: string; readonly at: string } | null;
  readonly saved: number;
  /** Null where that was not written down yet. */
  readonly keptAt: string | null;
  readonly uses: number;
  readonly lastUsedAt: string | null;
}

interface ViewRow extends Row {
  name: string;
  collectionId: number;
  refresh: string;
  text: string | null;
  madeOf: string | null;
  refreshedAt: string | null;
  refreshMs: number | null;
  failure: string | null;
  notes: string | null;
  approximate: string | null;
  saved: number;
  keptAt: string | null;
  uses: number;
  lastUsedAt: string | null;
}

/** What a view was of use for since that was written down last. */
export interface ViewUse {
  readonly name: string;
  readonly uses: number;
  /** Documents that need not be read, since it answered instead. */
  readonly saved: number;
  readonly at: string;
}

/** What comes with rows that are made. */
export interface Made {
  readonly madeOf: MadeOf;
  readonly refreshMs: number;
  readonly notes: readonly ViewNote[];
  readonly approximate: Approximation | null;
}

/** Rows that are made have no identity of their own; no field has this name, unless one is given it. */
export const rowIdentity = '@["#"]';

/** Puts rows at their positions. */
async function insertRows(writing: Database, collectionId: number, puts: readonly RowPut[]): Promise<void> {
  const there = puts.filter(({ text }) => text !== null);
  await writing.run(
    `INSERT INTO ${tableOf(collectionId)} (position, identity, body) SELECT value ->> 0, value ->> 0, value ->> 1 FROM json_each(?)`,
    [JSON.stringify(there.map(({ position, text }) => [position, text]))],
  );
  const summed = there.filter(({ sums }) => sums !== null);
  if (summed.length === 0) return;
  await writing.run('INSERT INTO wholeSums (collectionId, position, sums) SELECT ?, value ->> 0, value ->> 1 FROM json_each(?)', [
    collectionId,
    JSON.stringify(summed.map(({ position, sums }) => [position, sums])),
  ]);
}

/** The rows of saved pipelines that are kept, each in a collection of its name. */
export class MaterializedViews {
  private readonly connections: Connections;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  async materializedViews(): Promise<StoredView[]> {
    const rows = await this.connections.reading.all<ViewRow>('SELECT * FROM materializedViews ORDER BY name');
    return rows.map(({ refresh, text, madeOf, failure, notes, approximate, ...row }) => ({
      ...row,
      notes: notes === null ? [] : (JSON.parse(notes) as ViewNote[]),
      approximate: approximate === null ? null : (JSON.parse(approximate) as Approximation),
      refresh: JSON.parse(refresh) as RefreshPolicy,
      madeOf: text === null || madeOf === null ? null : { text, versions: JSON.parse(madeOf) as MadeOf['versions'] },
      failure: failure === null ? null : (JSON.parse(failure) as StoredView['failure']),
    }));
  }

  /** Begins to keep the rows of a view, or goes on with it in another way. */
  keepView(name: string, refresh: RefreshPolicy): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const { writing, models } = this.connections;
      const there = await writing.first('SELECT 1 FROM materializedViews WHERE name = ?', [name]);
      if (there !== undefined) {
        await writing.run('UPDATE materializedViews SET refresh = ? WHERE name = ?', [JSON.stringify(refresh), name]);
        return null;
      }
      if (await models.collections.findOne({ where: { name } }))
        throw new ServerProblem('/exists', `There is a collection ${name} already.`);
      const made = await models.collections.create({ name, identity: rowIdentity, checkedAt: new Date().toISOString() });
      await createTable(writing, made.id);
      await writing.run('INSERT INTO materializedViews (name, collectionId, refresh, keptAt) VALUES (?,?,?,?)', [
        name,
        made.id,
        JSON.stringify(refresh),
        new Date().toISOString(),
      ]);
      return null;
    });
  }

  /** Lets go of the rows of a view; what it says stays. */
  dropView(name: string): Promise<Reply<boolean>> {
    return this.connections.write(async () => {
      const { writing, models } = this.connections;
      const row = await writing.first<{ collectionId: number }>('SELECT collectionId FROM materializedViews WHERE name = ?', [name]);
      if (row === undefined) return false;
      await writing.run('DELETE FROM materializedViews WHERE name = ?', [name]);
      await models.indexes.destroy({ where: { collectionId: row.collectionId } });
      await models.collections.destroy({ where: { id: row.collectionId } });
      await dropTable(writing, row.collectionId);
      await writing.run('DELETE FROM wholeSums WHERE collectionId = ?', [row.collectionId]);
      return true;
    });
  }

  /**
   * Puts rows in the place of those that a view has, in one transaction with what they were made of.
   * @param nextPiece some rows with their positions; null at the end
   */
  storeView(
    collectionId: number,
    { madeOf, refreshMs, notes, approximate }: Made,
    nextPiece: () => Promise<readonly RowPut[] | null>,
  ): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      const at = new Date().toISOString();
      await writing.run(`DELETE FROM ${tableOf(collectionId)}`);
      await writing.run('DELETE FROM wholeSums WHERE collectionId = ?', [collectionId]);
      let [count, bytes] = [0, 0];
      for (let piece = await nextPiece(); piece !== null; piece = await nextPiece()) {
        await insertRows(writing, collectionId, piece);
        count += piece.length;
        for (const { text } of piece) bytes += text!.length;
      }
      await writing.run('UPDATE collections SET count = ?, bytes = ? WHERE id = ?', [count, bytes, collectionId]);
      await writing.run(
        'UPDATE materializedViews SET text = ?, madeOf = ?, refreshedAt = ?, refreshMs = ?, notes = ?, approximate = ?, failure = NULL WHERE collectionId = ?',
        [
          madeOf.text,
          JSON.stringify(madeOf.versions),
          at,
          refreshMs,
          JSON.stringify(notes.map((note) => ({ ...note, at }))),
          approximate && JSON.stringify(approximate),
          collectionId,
        ],
      );
      return null;
    });
  }

  /**
   * Brings rows that follow up, in one transaction with what they are made of now; where a source has changed once more meanwhile, they
   * are not told to be fresh.
   * @returns whether they are
   */
  followView(
    collectionId: number,
    { madeOf, at }: { readonly madeOf: MadeOf; readonly at: string },
    puts: readonly RowPut[],
  ): Promise<Reply<boolean>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      const table = tableOf(collectionId);
      const places = JSON.stringify(puts.map(({ position }) => position));
      const before = await writing.first<{ size: number | null; rows: number }>(
        `SELECT sum(length(body)) AS size, count(*) AS rows FROM ${table} WHERE position IN (SELECT value FROM json_each(?))`,
        [places],
      );
      await writing.run(`DELETE FROM ${table} WHERE position IN (SELECT value FROM json_each(?))`, [places]);
      await writing.run('DELETE FROM wholeSums WHERE collectionId = ? AND position IN (SELECT value FROM json_each(?))', [
        collectionId,
        places,
      ]);
      await insertRows(writing, collectionId, puts);
      const added = puts.filter(({ text }) => text !== null);
      const bytes = added.reduce((sum, { text }) => sum + text!.length, 0);
      if (puts.length > 0)
        await writing.run('UPDATE collections SET count = count + ?, bytes = bytes + ? WHERE id = ?', [added.length - (before?.rows ?? 0), bytes - (before?.size ?? 0), collectionId]); // prettier-ignore
      const now = await writing.all<{ id: number; version: number }>('SELECT id, version FROM collections');
      const versions = new Map(now.map(({ id, version }) => [String(id), version]));
      if (Object.entries(madeOf.versions).some(([id, version]) => versions.get(id) !== version)) return false;
      await writing.run('UPDATE materializedViews SET text = ?, madeOf = ?, refreshedAt = ?, failure = NULL WHERE collectionId = ?', [madeOf.text, JSON.stringify(madeOf.versions), at, collectionId]); // prettier-ignore
      return true;
    });
  }

  /** Notes why a view could not be made anew; the rows that it has stay. */
  failView(collectionId: number, message: string): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const failure = JSON.stringify({ message, at: new Date().toISOString() });
      await this.connections.writing.run('UPDATE materializedViews SET failure = ? WHERE collectionId = ?', [failure, collectionId]);
      return null;
    });
  }

  /** Adds how often views were read, and documents that need not be read therefore. */
  addUse(used: readonly ViewUse[]): Promise<Reply<null>> {
    return this.connections.write(async () => {
      for (const { name, uses, saved, at } of used)
        await this.connections.writing.run('UPDATE materializedViews SET uses = uses + ?, saved = saved + ?, lastUsedAt = ? WHERE name = ?', [uses, saved, at, name]); // prettier-ignore
      return null;
    });
  }

  /** How many runs of those that are kept have read some of these collections since. */
  async runsSince(collections: readonly string[], at: string): Promise<number> {
    const found = await this.connections.reading.first<{ count: number }>(
      'SELECT COUNT(*) AS count FROM runs WHERE at > ? AND EXISTS (SELECT 1 FROM json_each(runs.collections) WHERE value IN (SELECT value FROM json_each(?)))',
      [at, JSON.stringify(collections)],
    );
    return found?.count ?? 0;
  }
}
