import { v7 as uuidv7 } from 'uuid';
import type { ChangedDocumentInfo, ChangeInfo } from '@zesty-sieve/contract';
import { ServerProblem } from '../problem.ts';
import type { Database } from './database.ts';
import type { Expected } from './expectations.ts';
import { tableOf } from './table.ts';
import type { StoredCollection, TextPut } from './stored.ts';

interface ChangeRow {
  [column: string]: string | number | null;
  id: string;
  collectionId: number;
  collection: string;
  change: string;
  parameters: string | null;
  madeAt: string;
  matched: number;
  changed: number;
  bytes: number;
  kept: number;
  undoneAt: string | null;
}

export interface ChangeToMake {
  readonly change: string;
  readonly parameters: string | null;
  readonly matched: number;
  readonly changed: number;
}

/** The positions and texts of a statement's JSON parameter. A text of null stands for no document. */
const putsOf = `WITH puts AS (SELECT value ->> 0 AS position, value ->> 1 AS text FROM json_each(?))`;
const listedChanges = 200;

/** A change that is being made, inside a transaction. */
export class OpenChange {
  readonly id = uuidv7();
  private bytes = 0;
  private count = 0;
  private size = 0;
  private keeps = true;
  private readonly database: Database;
  private readonly collection: StoredCollection;
  private readonly keepBytes: number;
  private readonly expected: Expected | undefined;

  constructor(database: Database, collection: StoredCollection, keepBytes: number, expected: Expected | undefined) {
    this.expected = expected;
    this.database = database;
    this.collection = collection;
    this.keepBytes = keepBytes;
  }

  async begin({ change, parameters, matched, changed }: ChangeToMake): Promise<void> {
    await this.database.run(
      'INSERT INTO changes (id, collectionId, collection, change, parameters, madeAt, matched, changed) VALUES (?,?,?,?,?,?,?,?)',
      [this.id, this.collection.id, this.collection.name, change, parameters, new Date().toISOString(), matched, changed],
    );
  }

  async push(puts: readonly TextPut[]): Promise<void> {
    if (this.expected) for (const { position, text } of puts) if (text !== null) this.expected.refuse(JSON.parse(text), `at ${position}`);
    const table = tableOf(this.collection.id);
    const given = JSON.stringify(puts.map(({ position, text }) => [position, text]));
    const before = await this.database.first<{ size: number | null; rows: number }>(
      `${putsOf} SELECT sum(length(body)) AS size, count(*) AS rows FROM ${table} JOIN puts USING (position)`,
      [given],
    );
    if (before?.rows !== puts.length)
      throw new ServerProblem('/precondition', 'Documents have changed while this was worked out. Nothing was changed.');
    const after = puts.reduce((sum, { text }) => sum + (text?.length ?? 0), 0);
    this.bytes += (before.size ?? 0) + after;
    this.size += after - (before.size ?? 0);
    this.count -= puts.filter(({ text }) => text === null).length;
    // What is too large to be kept is not: the change is made all the same.
    if (this.bytes > this.keepBytes && this.keeps) {
      this.keeps = false;
      await this.database.run('DELETE FROM changedDocuments WHERE changeId = ?', [this.id]);
    }
    if (this.keeps) {
      await this.database.run(
        `${putsOf} INSERT INTO changedDocuments (changeId, position, identity, before, after)
         SELECT ?, d.position, d.identity, d.body, p.text FROM ${table} d JOIN puts p USING (position)`,
        [given, this.id],
      );
    }
    await this.database.run(
      `${putsOf} UPDATE ${table} SET body = p.text FROM puts p WHERE ${table}.position = p.position AND p.text IS NOT NULL`,
      [given],
    );
    await this.database.run(`${putsOf} DELETE FROM ${table} WHERE position IN (SELECT position FROM puts WHERE text IS NULL)`, [given]);
  }

  /** Accounts for the change, and forgets what the oldest changes replaced where all of it takes too much. */
  async finish(): Promise<{ kept: boolean }> {
    const { database, keeps } = this;
    await database.run('UPDATE changes SET bytes = ?, kept = ? WHERE id = ?', [keeps ? this.bytes : 0, keeps ? 1 : 0, this.id]);
    await database.run('UPDATE collections SET count = count + ?, bytes = bytes + ? WHERE id = ?', [
      this.count,
      this.size,
      this.collection.id,
    ]);
    const kept = await database.all<{ id: string; bytes: number }>('SELECT id, bytes FROM changes WHERE kept ORDER BY id DESC');
    let total = 0;
    for (const { id, bytes } of kept) {
      total += bytes;
      if (total <= this.keepBytes) continue;
      await database.run('DELETE FROM changedDocuments WHERE changeId = ?', [id]);
      await database.run('UPDATE changes SET kept = 0, bytes = 0 WHERE id = ?', [id]);
    }
    return { kept: keeps };
  }
}

/** The changes that were made, the last one first. */
export async function listChanges(database: Database, collectionId: number | null): Promise<ChangeInfo[]> {
  const rows = await database.all<ChangeRow>(
    `SELECT * FROM changes ${collectionId === null ? '' : 'WHERE collectionId = ?'} ORDER BY id DESC LIMIT ${listedChanges}`,
    collectionId === null ? [] : [collectionId],
  );
  return Promise.all(rows.map((row) => infoOf(database, row)));
}

export async function findChange(database: Database, id: string): Promise<ChangeRow> {
  const row = await database.first<ChangeRow>('SELECT * FROM changes WHERE id = ?', [id]);
  if (row === undefined) throw new ServerProblem('/not-found', `There is no change ${id}.`);
  return row;
}

export async function describeChange(database: Database, id: string): Promise<ChangeInfo> {
  return infoOf(database, await findChange(database, id));
}

async function infoOf(database: Database, row: ChangeRow): Promise<ChangeInfo> {
  const exists = (await database.first('SELECT 1 FROM collections WHERE id = ?', [row.collectionId])) !== undefined;
  const kept = row.kept === 1 && exists;
  const since = kept && row.undoneAt === null ? (await changedSince(database, row, 'count(*) AS n')).map(({ n }) => Number(n))[0]! : 0;
  return {
    id: row.id,
    collection: row.collection,
    change: row.change,
    parameters: row.parameters === null ? null : (JSON.parse(row.parameters) as ChangeInfo['parameters']),
    madeAt: row.madeAt,
    matched: row.matched,
    changed: row.changed,
    kept,
    undoneAt: row.undoneAt,
    changedSince: since,
  };
}

/** Documents of a change that are no longer as it left them. */
function changedSince(database: Database, { id, collectionId }: ChangeRow, columns: string) {
  return database.all(
    `SELECT ${columns} FROM changedDocuments c LEFT JOIN ${tableOf(collectionId)} d ON d.position = c.position
     WHERE c.changeId = ? AND (d.body IS NOT c.after
       OR (c.after IS NULL AND EXISTS (SELECT 1 FROM ${tableOf(collectionId)} o WHERE o.identity = c.identity)))`,
    [id],
  );
}

/** The documents that a change touched, before and after, and whether something has changed them since. */
export async function changedDocuments(
  database: Database,
  id: string,
  offset: number,
  size: number,
): Promise<{ documents: ChangedDocumentInfo[]; hasMore: boolean }> {
  const row = await findChange(database, id);
  const rows = await database.all<{ identity: string; before: string | null; after: string | null; now: string | null }>(
    `SELECT c.identity, c.before, c.after, d.body AS now FROM changedDocuments c LEFT JOIN ${tableOf(row.collectionId)} d ON d.position = c.position
     WHERE c.changeId = ? ORDER BY c.position LIMIT ? OFFSET ?`,
    [id, size + 1, offset],
  );
  const parsed = (text: string | null) => (text === null ? null : (JSON.parse(text) as ChangedDocumentInfo['before']));
  return {
    documents: rows.slice(0, size).map(({ identity, before, after, now }) => ({
      identity,
      before: parsed(before),
      after: parsed(after),
      changedSince: row.undoneAt === null ? now !== after : now !== before,
    })),
    hasMore: rows.length > size,
  };
}

/**
 * Takes a change back, inside a transaction that the caller holds.
 * @throws ServerProblem where it is not kept, was taken back already, or its documents have changed since
 */
export async function undoChange(database: Database, row: ChangeRow): Promise<TextPut[]> {
  if (row.undoneAt !== null) throw new ServerProblem('/changed-since', 'This change has been taken back already.');
  if (row.kept !== 1) throw new ServerProblem('/gone', 'What this change replaced is no longer kept, so it cannot be taken back.');
  const since = await changedSince(database, row, 'c.identity AS identity');
  if (since.length > 0) {
    const named = since.slice(0, 3).map(({ identity }) => String(identity));
    throw new ServerProblem(
      '/changed-since',
      `${since.length === 1 ? 'A document has' : `${since.length} documents have`} changed since: ${named.join(', ')}${since.length > 3 ? ' and others' : ''}. Nothing was taken back.`,
      { identities: since.map(({ identity }) => identity) },
    );
  }
  const table = tableOf(row.collectionId);
  const puts = await database.all<{ position: number; text: string; size: number | null; back: number }>(
    `SELECT position, before AS text, length(after) AS size, after IS NULL AS back FROM changedDocuments WHERE changeId = ?`,
    [row.id],
  );
  await database.run(
    `UPDATE ${table} SET body = c.before FROM changedDocuments c WHERE c.changeId = ? AND c.position = ${table}.position AND c.after IS NOT NULL`,
    [row.id],
  );
  await database.run(
    `INSERT INTO ${table} (position, identity, body) SELECT position, identity, before FROM changedDocuments WHERE changeId = ? AND after IS NULL`,
    [row.id],
  );
  const bytes = puts.reduce((sum, { text, size }) => sum + text.length - (size ?? 0), 0);
  const back = puts.filter((put) => put.back === 1).length;
  await database.run('UPDATE collections SET count = count + ?, bytes = bytes + ? WHERE id = ?', [back, bytes, row.collectionId]);
  await database.run('UPDATE changes SET undoneAt = ? WHERE id = ?', [new Date().toISOString(), row.id]);
  return puts.map(({ position, text }) => ({ position, text }));
}
