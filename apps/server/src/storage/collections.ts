import type { Json } from '@zesty-sieve/core';
import type { CollectionCheck, CollectionInfo, Expectation, ExpectationCheck, FieldNote } from '@zesty-sieve/contract';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import type { Connections } from './connections.ts';
import type { Row } from './database.ts';
import { Expected, ExpectationCounter } from './expectations.ts';
import { IdentityReader } from './identity.ts';
import { findReferences, type Reference } from './references.ts';
import type { StoredCollection, StoredIndex } from './stored.ts';
import { createTable, dropTable, tableOf } from './table.ts';
import type { DocumentWriter } from './writer.ts';

interface CollectionRow extends Row {
  id: number;
  name: string;
  identity: string;
  count: number;
  bytes: number;
  scratch: number;
  version: number;
  isView: number;
  checkedAt: string | null;
  indexes: string;
}

/** The collections: their names and identities, what is expected and noted of them, and how much they hold. */
export class Collections {
  private readonly connections: Connections;
  private readonly expectations = new Map<number, { text: string; expected: Expected }>();

  constructor(connections: Connections) {
    this.connections = connections;
  }

  /** What documents of a collection are expected to be like; undefined where nothing is asked of them. */
  async expectedOf(collectionId: number, whatever = false): Promise<Expected | undefined> {
    const { schema, mode } = await this.expectation(collectionId);
    if (schema === null || (mode === 'off' && !whatever)) return undefined;
    const text = JSON.stringify(schema);
    const known = this.expectations.get(collectionId);
    if (known?.text === text && known.expected.mode === mode) return known.expected;
    const expected = new Expected({ schema, mode });
    this.expectations.set(collectionId, { text, expected });
    return expected;
  }

  async expectation(id: number): Promise<Expectation> {
    const row = await this.connections.reading.first<{ schema: string | null; schemaMode: Expectation['mode'] }>(
      'SELECT schema, schemaMode FROM collections WHERE id = ?',
      [id],
    );
    return { schema: row?.schema == null ? null : (JSON.parse(row.schema) as Json), mode: row?.schemaMode ?? 'off' };
  }

  /** Scratch collections whose documents went with the process that had them in memory. */
  async forgetLostScratch(): Promise<void> {
    const { reading, models } = this.connections;
    const there = new Set((await reading.all<{ name: string }>('SELECT name FROM scratch.sqlite_master')).map(({ name }) => name));
    const scratch = await models.collections.findAll({ where: { scratch: true } });
    const lost = scratch.filter(({ id }) => !there.has(tableOf(id))).map(({ id }) => id);
    if (lost.length > 0) await models.collections.destroy({ where: { id: lost } });
  }

  setExpectation(id: number, { schema, mode }: Expectation): Promise<Reply<null>> {
    return this.connections.write(async () => {
      if (schema !== null) new Expected({ schema, mode });
      await this.connections.models.collections.update(
        { schema: schema === null ? null : JSON.stringify(schema), schemaMode: mode },
        { where: { id } },
      );
      return null;
    });
  }

  /** Checks what is stored against what is expected. */
  checkExpectation(collection: StoredCollection): Promise<Reply<ExpectationCheck>> {
    return reply(async () => {
      const expected = await this.expectedOf(collection.id, true);
      if (expected === undefined) throw new ServerProblem('/request', `No JSON Schema has been set for ${collection.name}.`);
      const counter = new ExpectationCounter(expected);
      for (let after = -1; ;) {
        const rows = await this.connections
          .readingOf(collection)
          .all<{ position: number; identity: string; body: string }>(
            `SELECT position, identity, body FROM ${tableOf(collection.id)} WHERE position > ? ORDER BY position LIMIT 2000`,
            [after],
          );
        for (const { identity, body } of rows) counter.add(identity, JSON.parse(body));
        if (rows.length < 2_000) return counter.result;
        after = rows[rows.length - 1]!.position;
      }
    });
  }

  /** Which of a collection's fields hold identities, and of what. */
  async references(
    collection: StoredCollection,
    others: readonly StoredCollection[],
    fields: Parameters<typeof findReferences>[3],
  ): Promise<[string, Reference[]][]> {
    // As it was committed last: an import under way is not waited for.
    const row = await this.connections.reading.first<{ nextPosition: number }>('SELECT nextPosition FROM collections WHERE id = ?', [
      collection.id,
    ]);
    return [
      ...(await findReferences(
        this.connections.readingScratch,
        { id: collection.id, nextPosition: row?.nextPosition ?? 0 },
        others,
        fields,
      )),
    ];
  }

  fieldNotes(id: number): Promise<FieldNote[]> {
    return this.connections.reading.all<FieldNote>('SELECT path, note, unit FROM fieldNotes WHERE collectionId = ?', [id]);
  }

  /** Notes on a field; one without words goes. */
  setFieldNote(id: number, { path, note, unit }: FieldNote): Promise<Reply<null>> {
    return this.connections.write(async () => {
      if (note === '' && unit === '')
        await this.connections.writing.run('DELETE FROM fieldNotes WHERE collectionId = ? AND path = ?', [id, path]);
      else
        await this.connections.writing.run('INSERT OR REPLACE INTO fieldNotes (collectionId, path, note, unit) VALUES (?,?,?,?)', [
          id,
          path,
          note,
          unit,
        ]);
      return null;
    });
  }

  /** The collections as they were committed last. */
  async collections(): Promise<StoredCollection[]> {
    const { reading } = this.connections;
    // One statement, so that collections and indexes are of the same moment.
    const rows = await reading.all<CollectionRow>(
      `SELECT id, name, identity, count, bytes, scratch, version, checkedAt,
         EXISTS (SELECT 1 FROM materializedViews v WHERE v.collectionId = collections.id) AS isView, (
         SELECT json_group_array(json_object('name', name, 'definition', definition, 'createdAt', createdAt, 'buildMs', buildMs, 'recall', json(recall)))
         FROM (SELECT * FROM indexes WHERE collectionId = collections.id ORDER BY id)) AS indexes
       FROM collections ORDER BY name`,
    );
    return rows.map(({ checkedAt, scratch, isView, indexes, ...row }) => ({
      ...row,
      isView: Boolean(isView),
      scratch: Boolean(scratch),
      checked: checkedAt !== null,
      indexes: JSON.parse(indexes) as StoredIndex[],
    }));
  }

  createCollection(name: string, identity: string, scratch: boolean): Promise<Reply<CollectionInfo>> {
    return this.connections.write(async () => {
      const { path } = new IdentityReader(identity);
      if (await this.connections.models.collections.findOne({ where: { name } }))
        throw new ServerProblem('/exists', `There is a collection ${name} already.`);
      const made = await this.connections.models.collections.create({ name, identity: path, scratch, checkedAt: new Date().toISOString() });
      await createTable(this.connections.writing, made.id, scratch);
      return { name, identity: path, count: 0, bytes: 0, scratch };
    });
  }

  /** What the last check found; null where there was none. */
  async lastCheck(id: number): Promise<CollectionCheck | null> {
    const row = await this.connections.reading.first<{ checkReport: string | null }>('SELECT checkReport FROM collections WHERE id = ?', [
      id,
    ]);
    return row?.checkReport == null ? null : (JSON.parse(row.checkReport) as CollectionCheck);
  }

  keepCheck(id: number, check: CollectionCheck): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.models.collections.update({ checkedAt: check.at, checkReport: JSON.stringify(check) }, { where: { id } });
      return null;
    });
  }

  renameCollection(id: number, name: string): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const taken = await this.connections.models.collections.findOne({ where: { name } });
      if (taken !== null && taken.id !== id) throw new ServerProblem('/exists', `There is a collection ${name} already.`);
      await this.connections.models.collections.update({ name }, { where: { id } });
      await this.connections.writing.run('UPDATE changes SET collection = ? WHERE collectionId = ?', [name, id]);
      return null;
    });
  }

  setIdentity(id: number, identity: string): Promise<Reply<null>> {
    return this.connections.write(async () => {
      const { path } = new IdentityReader(identity);
      const row = await this.connections.models.collections.findByPk(id, { rejectOnEmpty: true });
      if (row.count > 0) throw new ServerProblem('/request', 'A collection that holds documents keeps its identity.');
      await row.update({ identity: path });
      return null;
    });
  }

  /** Removes all documents of a collection; its indexes and its name stay. */
  clearCollection(id: number): Promise<Reply<number>> {
    return this.connections.write(async () => {
      const removed = await this.connections.writing.run(`DELETE FROM ${tableOf(id)}`);
      await this.connections.models.collections.update({ count: 0, bytes: 0 }, { where: { id } });
      return removed;
    });
  }

  removeCollection(id: number): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.models.indexes.destroy({ where: { collectionId: id } });
      await this.connections.models.collections.destroy({ where: { id } });
      await this.connections.writing.run('DELETE FROM changes WHERE collectionId = ?', [id]);
      await dropTable(this.connections.writing, id);
      return null;
    });
  }

  async nextPosition(collectionId: number): Promise<number> {
    return (await this.connections.models.collections.findByPk(collectionId, { rejectOnEmpty: true })).nextPosition;
  }

  async account(collectionId: number, writer: DocumentWriter): Promise<void> {
    await this.adjust(collectionId, writer.written.inserted, writer.written.bytes, writer.nextPosition);
  }

  /** Tells what a write has changed; the collection's version goes up with it, by a trigger. */
  async adjust(collectionId: number, count: number, bytes: number, nextPosition: number | null = null): Promise<void> {
    await this.connections.writing.run(
      'UPDATE collections SET count = count + ?, bytes = bytes + ?, nextPosition = coalesce(?, nextPosition) WHERE id = ?',
      [count, bytes, nextPosition, collectionId],
    );
  }
}
