import { createHash } from 'node:crypto';
import { Mutex } from 'async-mutex';
import type { Json } from '@zesty-sieve/core';
import type {
  ChangedDocumentInfo,
  ChangeInfo,
  CollectionInfo,
  Expectation,
  ExpectationCheck,
  FieldNote,
  ImportPreview,
  ExportFormat,
  ImportOptions,
  ImportProgress,
  ImportResult,
  KeptRunDetail,
  RunList,
  SavedPipeline,
  Settings,
} from '@zesty-sieve/contract';
import { previewImport } from '../formats/preview.ts';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import { patched, readAll, type PatchKind } from './bodies.ts';
import { changedDocuments, describeChange, findChange, listChanges, OpenChange, undoChange, type ChangeToMake } from './changeStore.ts';
import { Database } from './database.ts';
import { Expected, ExpectationCounter } from './expectations.ts';
import { Exporter } from './exporter.ts';
import { IdentityReader, type ReadyDocument } from './identity.ts';
import { Importer, type ImportFormat, type Refusals } from './importer.ts';
import { migrate } from './migrate.ts';
import { openSound } from './openSound.ts';
import { savedOf } from './savedPipeline.ts';
import { defineModels, type Models } from './models.ts';
import { findReferences, type Reference } from './references.ts';
import { askedBefore, findRun, indexUse, keepRuns, listRuns, type RunToKeep } from './runStore.ts';
import { readSettings, writeSettings, type SettingsChange } from './settingsStore.ts';
import type { AskedBefore } from '../engine/advising.ts';
import { createTable, dropTable, tableOf } from './table.ts';
import { DocumentWriter } from './writer.ts';

/** A collection as the other threads need to know it. */
export interface StoredCollection extends CollectionInfo {
  readonly id: number;
  readonly indexes: readonly StoredIndex[];
}
export interface StoredIndex {
  readonly name: string;
  /** The definition as JSON of the contract's form. */
  readonly definition: string;
  readonly createdAt: string;
  readonly buildMs: number | null;
}

/** A document's text put at a position, or taken from it. */
export interface TextPut {
  readonly position: number;
  readonly text: string | null;
}

/** Asked before a change is committed; throws to refuse it. */
export type Check = (puts: readonly TextPut[]) => Promise<Reply<null>>;

export interface ReadDocument {
  readonly text: string;
  readonly etag: string;
}

interface OpenImport {
  readonly importer: Importer;
  readonly writer: DocumentWriter;
  readonly collectionId: number;
  readonly release: () => void;
}

export function etagOf(text: string): string {
  return `"${createHash('sha256').update(text).digest('base64url').slice(0, 22)}"`;
}

/**
 * Everything that is kept on disk, in a thread of its own. One connection writes, one operation at a time; another
 * reads what is committed. A change is acknowledged when its transaction has been committed.
 */
export class StorageService {
  private writing!: Database;
  private reading!: Database;
  private models!: Models;
  private readonly turn = new Mutex();
  private readonly imports = new Map<number, OpenImport>();
  private readonly exports = new Map<number, Exporter>();
  private nextHandle = 1;
  private undoBytes = 0;
  private readonly expectations = new Map<number, { text: string; expected: Expected }>();
  private openChange: { change: OpenChange; release: () => void } | undefined;

  async open(file: string, undoBytes: number): Promise<Reply<null>> {
    return reply(async () => {
      this.undoBytes = undoBytes;
      this.writing = await openSound(file);
      await migrate(this.writing);
      this.reading = await Database.open(file);
      this.models = defineModels(this.writing.sequelize);
      await this.models.collections.destroy({ where: { scratch: true } });
      return null;
    });
  }

  async close(): Promise<void> {
    await this.turn.runExclusive(async () => {
      await this.reading.close();
      await this.writing.close();
    });
  }

  /** Copies the database into another file, as it is at one moment. */
  async backup(to: string): Promise<void> {
    await this.reading.run('VACUUM main INTO ?', [to]);
  }

  private write<T>(work: () => Promise<T>): Promise<Reply<T>> {
    return reply(() => this.turn.runExclusive(() => this.writing.transaction(work)));
  }

  // Collections

  /** What documents of a collection are expected to be like; undefined where nothing is asked of them. */
  private async expectedOf(collectionId: number, whatever = false): Promise<Expected | undefined> {
    const row = await this.models.collections.findByPk(collectionId, { rejectOnEmpty: true });
    if (row.schema === null || row.schema === undefined || (row.schemaMode === 'off' && !whatever)) return undefined;
    const known = this.expectations.get(collectionId);
    if (known?.text === row.schema && known.expected.mode === row.schemaMode) return known.expected;
    const expected = new Expected({ schema: JSON.parse(row.schema) as Json, mode: row.schemaMode as Expectation['mode'] });
    this.expectations.set(collectionId, { text: row.schema, expected });
    return expected;
  }

  expectation(id: number): Promise<Expectation> {
    return this.turn.runExclusive(async () => {
      const row = await this.models.collections.findByPk(id, { rejectOnEmpty: true });
      return { schema: row.schema === null ? null : (JSON.parse(row.schema) as Json), mode: row.schemaMode as Expectation['mode'] };
    });
  }

  setExpectation(id: number, { schema, mode }: Expectation): Promise<Reply<null>> {
    return this.write(async () => {
      if (schema !== null) new Expected({ schema, mode });
      await this.models.collections.update(
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
        const rows = await this.reading.all<{ position: number; identity: string; body: string }>(
          `SELECT position, identity, body FROM ${tableOf(collection.id)} WHERE position > ? ORDER BY position LIMIT 2000`,
          [after],
        );
        for (const { identity, body } of rows) counter.add(identity, JSON.parse(body));
        if (rows.length < 2_000) return counter.result;
        after = rows[rows.length - 1].position;
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
    const row = await this.reading.first<{ nextPosition: number }>('SELECT nextPosition FROM collections WHERE id = ?', [collection.id]);
    return [...(await findReferences(this.reading, { id: collection.id, nextPosition: row?.nextPosition ?? 0 }, others, fields))];
  }

  fieldNotes(id: number): Promise<FieldNote[]> {
    return this.reading.all<FieldNote>('SELECT path, note, unit FROM fieldNotes WHERE collectionId = ?', [id]);
  }

  /** Notes on a field; one without words goes. */
  setFieldNote(id: number, { path, note, unit }: FieldNote): Promise<Reply<null>> {
    return this.write(async () => {
      if (note === '' && unit === '') await this.writing.run('DELETE FROM fieldNotes WHERE collectionId = ? AND path = ?', [id, path]);
      else
        await this.writing.run('INSERT OR REPLACE INTO fieldNotes (collectionId, path, note, unit) VALUES (?,?,?,?)', [
          id,
          path,
          note,
          unit,
        ]);
      return null;
    });
  }

  async collections(): Promise<StoredCollection[]> {
    return this.turn.runExclusive(async () => {
      const rows = await this.models.collections.findAll({ order: ['name'] });
      const indexes = await this.models.indexes.findAll({ order: ['id'] });
      return rows.map((row) => ({
        id: row.id,
        name: row.name,
        identity: row.identity,
        count: row.count,
        bytes: row.bytes,
        scratch: Boolean(row.scratch),
        indexes: indexes
          .filter(({ collectionId }) => collectionId === row.id)
          .map(({ name, definition, createdAt, buildMs }) => ({ name, definition, createdAt, buildMs })),
      }));
    });
  }

  createCollection(name: string, identity: string, scratch: boolean): Promise<Reply<null>> {
    return this.write(async () => {
      const { path } = new IdentityReader(identity);
      if (await this.models.collections.findOne({ where: { name } }))
        throw new ServerProblem('/exists', `There is a collection ${name} already.`);
      const made = await this.models.collections.create({ name, identity: path, scratch });
      await createTable(this.writing, made.id, scratch);
      return null;
    });
  }

  renameCollection(id: number, name: string): Promise<Reply<null>> {
    return this.write(async () => {
      const taken = await this.models.collections.findOne({ where: { name } });
      if (taken !== null && taken.id !== id) throw new ServerProblem('/exists', `There is a collection ${name} already.`);
      await this.models.collections.update({ name }, { where: { id } });
      await this.writing.run('UPDATE changes SET collection = ? WHERE collectionId = ?', [name, id]);
      return null;
    });
  }

  setIdentity(id: number, identity: string): Promise<Reply<null>> {
    return this.write(async () => {
      const { path } = new IdentityReader(identity);
      const row = await this.models.collections.findByPk(id, { rejectOnEmpty: true });
      if (row.count > 0) throw new ServerProblem('/request', 'A collection that holds documents keeps its identity.');
      await row.update({ identity: path });
      return null;
    });
  }

  /** Removes all documents of a collection; its indexes and its name stay. */
  clearCollection(id: number): Promise<Reply<number>> {
    return this.write(async () => {
      const removed = await this.writing.run(`DELETE FROM ${tableOf(id)}`);
      await this.models.collections.update({ count: 0, bytes: 0 }, { where: { id } });
      return removed;
    });
  }

  removeCollection(id: number): Promise<Reply<null>> {
    return this.write(async () => {
      await this.models.indexes.destroy({ where: { collectionId: id } });
      await this.models.collections.destroy({ where: { id } });
      await this.writing.run('DELETE FROM changes WHERE collectionId = ?', [id]);
      await dropTable(this.writing, id);
      return null;
    });
  }

  // Documents

  /** Adds documents of a JSON text, one or an array: all or none. */
  insert(
    collection: StoredCollection,
    body: Uint8Array,
    check: Check | null,
  ): Promise<Reply<{ identities: string[]; puts: TextPut[]; warnings: string[] }>> {
    return this.write(async () => {
      const documents = readAll(body, new IdentityReader(collection.identity));
      const expected = await this.expectedOf(collection.id);
      for (const { parsed, identity } of documents) expected?.refuse(parsed, identity);
      const nextPosition = await this.nextPosition(collection.id);
      const writer = new DocumentWriter(this.writing, collection.id, nextPosition, 'reject', (_line, identity) => {
        throw new ServerProblem(
          '/duplicate-identity',
          `There is a document ${JSON.stringify(identity)} in ${collection.name} already. Nothing was stored.`,
          { identity },
        );
      });
      for (const document of documents) await writer.add({ ...document, line: 0 });
      await writer.finish();
      const puts = documents.map(({ text }, i): TextPut => ({ position: nextPosition + i, text }));
      await ask(check, puts);
      await this.account(collection.id, writer);
      const warnings = documents.flatMap(({ identity, parsed }) =>
        (expected?.problemsOf(parsed) ?? []).map((problem) => `${identity}: ${problem}`),
      );
      return { identities: documents.map(({ identity }) => identity), puts, warnings: warnings.slice(0, 100) };
    });
  }

  /** Replaces whole documents by identity, adding those that are not there. */
  replace(
    collection: StoredCollection,
    body: Uint8Array,
    only: { identity: string; ifMatch: string | null } | null,
    check: Check | null,
  ): Promise<Reply<{ inserted: number; replaced: number; puts: TextPut[]; etag: string }>> {
    return this.write(async () => {
      const documents = readAll(body, new IdentityReader(collection.identity));
      if (only !== null) await this.expectOne(collection, documents, only);
      const expected = await this.expectedOf(collection.id);
      for (const { parsed, identity } of documents) expected?.refuse(parsed, identity);
      const table = tableOf(collection.id);
      let next = await this.nextPosition(collection.id);
      const puts: TextPut[] = [];
      let replaced = 0;
      let bytes = 0;
      for (const { identity, text } of documents) {
        const before = await this.writing.first<{ position: number; size: number }>(
          `SELECT position, length(body) AS size FROM ${table} WHERE identity = ?`,
          [identity],
        );
        const position = before?.position ?? next++;
        if (before) await this.writing.run(`UPDATE ${table} SET body = ? WHERE position = ?`, [text, position]);
        else await this.writing.run(`INSERT INTO ${table} (position, identity, body) VALUES (?, ?, ?)`, [position, identity, text]);
        replaced += before ? 1 : 0;
        bytes += text.length - (before?.size ?? 0);
        puts.push({ position, text });
      }
      await ask(check, puts);
      const inserted = documents.length - replaced;
      await this.adjust(collection.id, inserted, bytes, next);
      return { inserted, replaced, puts, etag: etagOf(documents[0]?.text ?? '') };
    });
  }

  private async expectOne(
    collection: StoredCollection,
    documents: readonly ReadyDocument[],
    only: { identity: string; ifMatch: string | null },
  ): Promise<void> {
    if (documents.length !== 1) throw new ServerProblem('/document', 'One document is wanted here.');
    if (documents[0].identity !== only.identity) {
      throw new ServerProblem(
        '/document',
        `The document’s identity is ${JSON.stringify(documents[0].identity)}, and the address names ${JSON.stringify(only.identity)}. An identity is not changed by replacing.`,
      );
    }
    await this.expectMatch(collection, only);
  }

  private async expectMatch(
    collection: StoredCollection,
    { identity, ifMatch }: { identity: string; ifMatch: string | null },
  ): Promise<void> {
    if (ifMatch === null) return;
    const now = await this.bodyOf(this.writing, collection, identity);
    const matches = now !== undefined && (ifMatch.trim() === '*' || ifMatch.split(',').some((tag) => tag.trim() === etagOf(now)));
    if (!matches)
      throw new ServerProblem(
        '/precondition',
        `The document ${JSON.stringify(identity)} has changed since it was read. Read it again, and change that.`,
      );
  }

  /** Changes one document by a JSON Patch (RFC 6902) or a JSON Merge Patch (RFC 7396). */
  patch(
    collection: StoredCollection,
    identity: string,
    body: string,
    kind: PatchKind,
    ifMatch: string | null,
    check: Check | null,
  ): Promise<Reply<{ puts: TextPut[] } & ReadDocument>> {
    return this.write(async () => {
      const text = await this.bodyOf(this.writing, collection, identity);
      if (text === undefined) throw missing(collection, identity);
      await this.expectMatch(collection, { identity, ifMatch });
      const changed = patched(text, body, kind);
      const ready = new IdentityReader(collection.identity).ready(changed);
      if ('problem' in ready) throw new ServerProblem('/document', `The changed document cannot be stored: ${ready.problem}.`);
      (await this.expectedOf(collection.id))?.refuse(ready.parsed, identity);
      if (ready.identity !== identity) throw new ServerProblem('/document', 'A patch may not change the identity of a document.');
      const table = tableOf(collection.id);
      const row = await this.writing.first<{ position: number }>(`SELECT position FROM ${table} WHERE identity = ?`, [identity]);
      const puts: TextPut[] = [{ position: row?.position ?? 0, text: changed }];
      await ask(check, puts);
      await this.writing.run(`UPDATE ${table} SET body = ? WHERE identity = ?`, [changed, identity]);
      await this.adjust(collection.id, 0, changed.length - text.length);
      return { puts, text: changed, etag: etagOf(changed) };
    });
  }

  remove(collection: StoredCollection, identity: string, ifMatch: string | null): Promise<Reply<{ puts: TextPut[] }>> {
    return this.write(async () => {
      const table = tableOf(collection.id);
      const row = await this.writing.first<{ position: number; size: number }>(
        `SELECT position, length(body) AS size FROM ${table} WHERE identity = ?`,
        [identity],
      );
      if (row === undefined) throw missing(collection, identity);
      await this.expectMatch(collection, { identity, ifMatch });
      await this.writing.run(`DELETE FROM ${table} WHERE position = ?`, [row.position]);
      await this.adjust(collection.id, -1, -row.size);
      return { puts: [{ position: row.position, text: null }] };
    });
  }

  read(collection: StoredCollection, identity: string): Promise<Reply<ReadDocument>> {
    return reply(async () => {
      const text = await this.bodyOf(this.reading, collection, identity);
      if (text === undefined) throw missing(collection, identity);
      return { text, etag: etagOf(text) };
    });
  }

  /** The texts of many documents, in the order asked for; those that are not there are named. */
  readMany(collection: StoredCollection, identities: readonly string[]): Promise<Reply<{ texts: string[]; missing: string[] }>> {
    return reply(async () => {
      const found = new Map<string, string>();
      for (let i = 0; i < identities.length; i += 500) {
        const part = identities.slice(i, i + 500);
        const rows = await this.reading.all<{ identity: string; body: string }>(
          `SELECT identity, body FROM ${tableOf(collection.id)} WHERE identity IN (${part.map(() => '?').join(',')})`,
          part,
        );
        for (const { identity, body } of rows) found.set(identity, body);
      }
      return {
        texts: identities.flatMap((identity) => found.get(identity) ?? []),
        missing: identities.filter((identity) => !found.has(identity)),
      };
    });
  }

  /** A page of documents in insertion order, and the position after which the next begins. */
  async page(collection: StoredCollection, after: number, size: number): Promise<{ texts: string[]; last: number | null }> {
    const rows = await this.reading.all<{ position: number; body: string }>(
      `SELECT position, body FROM ${tableOf(collection.id)} WHERE position > ? ORDER BY position LIMIT ?`,
      [after, size],
    );
    return { texts: rows.map(({ body }) => body), last: rows.length < size ? null : rows[rows.length - 1].position };
  }

  private async bodyOf(database: Database, collection: StoredCollection, identity: string): Promise<string | undefined> {
    return (await database.first<{ body: string }>(`SELECT body FROM ${tableOf(collection.id)} WHERE identity = ?`, [identity]))?.body;
  }

  private async nextPosition(collectionId: number): Promise<number> {
    return (await this.models.collections.findByPk(collectionId, { rejectOnEmpty: true })).nextPosition;
  }

  private async account(collectionId: number, writer: DocumentWriter): Promise<void> {
    await this.adjust(collectionId, writer.written.inserted, writer.written.bytes, writer.nextPosition);
  }

  private async adjust(collectionId: number, count: number, bytes: number, nextPosition?: number): Promise<void> {
    const row = await this.models.collections.findByPk(collectionId, { rejectOnEmpty: true });
    await row.update({ count: row.count + count, bytes: row.bytes + bytes, ...(nextPosition !== undefined && { nextPosition }) });
  }

  // Loading files

  /** Begins an import: one transaction until it is finished or given up. Other writers wait. */
  beginImport(
    collection: StoredCollection,
    format: ImportFormat,
    zipped: boolean,
    options: ImportOptions,
    refusals: Refusals | null,
    clearsFirst = false,
  ): Promise<Reply<number>> {
    return reply(async () => {
      const release = await this.turn.acquire();
      try {
        const identity = new IdentityReader(collection.identity);
        const nextPosition = await this.nextPosition(collection.id);
        await this.writing.begin();
        if (clearsFirst) {
          await this.writing.run(`DELETE FROM ${tableOf(collection.id)}`);
          await this.models.collections.update({ count: 0, bytes: 0 }, { where: { id: collection.id } });
        }
        const refuse = (line: number, taken: string) => importer.reject(line, `the identity ${JSON.stringify(taken)} is taken`);
        const writer = new DocumentWriter(this.writing, collection.id, nextPosition, options.onDuplicate, refuse);
        const expected = await this.expectedOf(collection.id);
        const importer = new Importer(identity, writer, format, zipped, options, refusals ?? undefined, expected);
        const handle = this.nextHandle++;
        this.imports.set(handle, { importer, writer, collectionId: collection.id, release });
        return handle;
      } catch (error) {
        release();
        throw error;
      }
    });
  }

  previewImport(
    bytes: Uint8Array,
    isWhole: boolean,
    zipped: boolean,
    format: ImportFormat,
    options: ImportOptions,
  ): Promise<Reply<ImportPreview>> {
    return reply(() => previewImport(bytes, isWhole, zipped, format, options));
  }

  pushImport(handle: number, bytes: Uint8Array): Promise<Reply<ImportProgress>> {
    return reply(async () => {
      const { importer } = this.openImport(handle);
      await importer.push(bytes);
      return { ...importer.progress };
    });
  }

  /** Commits an import. */
  finishImport(
    handle: number,
    /** Whether one line that is rejected makes all of it void. */
    isStrict = false,
  ): Promise<Reply<{ result: ImportResult; firstPosition: number; nextPosition: number; replacedPositions: number[] }>> {
    return reply(async () => {
      const open = this.openImport(handle);
      const { importer, writer, collectionId } = open;
      const firstPosition = await this.nextPosition(collectionId);
      const result = await importer.end();
      const [rejected] = result.rejected;
      if (isStrict && rejected !== undefined)
        throw new ServerProblem(
          rejected.reason.includes('unique index') ? '/unique' : '/duplicate-identity',
          `Row ${rejected.line} cannot be stored: ${rejected.reason.replace(/\.$/, '')}. Nothing was stored.`,
        );
      await this.account(collectionId, writer);
      await this.writing.run('COMMIT');
      this.imports.delete(handle);
      open.release();
      return { result, firstPosition, nextPosition: writer.nextPosition, replacedPositions: writer.written.replacedPositions };
    });
  }

  /** Gives an import up: nothing of it stays. */
  async abandonImport(handle: number): Promise<void> {
    const open = this.imports.get(handle);
    if (open === undefined) return;
    this.imports.delete(handle);
    await open.writer.finish().catch(() => undefined);
    await this.writing.run('ROLLBACK').catch(() => undefined);
    open.release();
  }

  private openImport(handle: number): OpenImport {
    const open = this.imports.get(handle);
    if (open === undefined) throw new ServerProblem('/internal', 'This import has ended.');
    return open;
  }

  // Exporting

  beginExport(collection: StoredCollection, format: ExportFormat): number {
    const handle = this.nextHandle++;
    this.exports.set(handle, new Exporter(this.reading, collection.id, format));
    return handle;
  }

  /** The next piece of an export, or null at its end. */
  async nextPiece(handle: number): Promise<string | null> {
    const piece = (await this.exports.get(handle)?.next()) ?? null;
    if (piece === null) this.exports.delete(handle);
    return piece;
  }

  endExport(handle: number): void {
    this.exports.delete(handle);
  }

  // Changes of many documents

  /** Begins a change: one transaction until it is finished or given up. Other writers wait. */
  beginChange(collection: StoredCollection, made: ChangeToMake): Promise<Reply<string>> {
    return reply(async () => {
      const release = await this.turn.acquire();
      const change = new OpenChange(this.writing, collection, this.undoBytes, await this.expectedOf(collection.id));
      this.openChange = { change, release };
      try {
        await this.writing.begin();
        await change.begin(made);
        return change.id;
      } catch (error) {
        await this.abandonChange(change.id);
        throw error;
      }
    });
  }

  pushChange(puts: readonly TextPut[]): Promise<Reply<null>> {
    return reply(async () => {
      await this.openChange?.change.push(puts);
      return null;
    });
  }

  /** Commits a change. */
  finishChange(): Promise<Reply<{ kept: boolean }>> {
    return reply(async () => {
      if (this.openChange === undefined) throw new ServerProblem('/internal', 'This change has ended.');
      const { change, release } = this.openChange;
      const done = await change.finish();
      await this.writing.run('COMMIT');
      this.openChange = undefined;
      release();
      return done;
    });
  }

  /** Gives a change up: nothing of it stays. */
  async abandonChange(id: string): Promise<void> {
    if (this.openChange?.change.id !== id) return;
    const { release } = this.openChange;
    this.openChange = undefined;
    await this.writing.run('ROLLBACK').catch(() => undefined);
    release();
  }

  changes(collectionId: number | null): Promise<ChangeInfo[]> {
    return listChanges(this.reading, collectionId);
  }

  change(id: string): Promise<Reply<ChangeInfo>> {
    return reply(() => describeChange(this.reading, id));
  }

  changedDocuments(id: string, offset: number, size: number): Promise<Reply<{ documents: ChangedDocumentInfo[]; hasMore: boolean }>> {
    return reply(() => changedDocuments(this.reading, id, offset, size));
  }

  undoChange(id: string, check: Check | null): Promise<Reply<TextPut[]>> {
    return this.write(async () => {
      const puts = await undoChange(this.writing, await findChange(this.writing, id));
      await ask(check, puts);
      return puts;
    });
  }

  // Runs

  async keepRuns(runs: readonly RunToKeep[]): Promise<void> {
    const mostRuns = (await this.settings()).runsKept;
    await this.turn.runExclusive(() => this.writing.transaction(() => keepRuns(this.writing, runs, mostRuns)));
  }

  runs(query: Parameters<typeof listRuns>[1]): Promise<RunList> {
    return listRuns(this.reading, query);
  }

  run(id: string): Promise<Reply<KeptRunDetail>> {
    return reply(async () => {
      const found = await findRun(this.reading, id);
      if (found === undefined) throw new ServerProblem('/gone', 'This run is not kept any more.');
      return found;
    });
  }

  /** The questions that kept runs asked, and those that are saved: each once, with how often it was run. */
  askedBefore(): Promise<AskedBefore[]> {
    return askedBefore(this.reading);
  }

  indexUse(collectionId: number): ReturnType<typeof indexUse> {
    return indexUse(this.reading, collectionId);
  }

  setBaseline(name: string, runId: string | null): Promise<Reply<null>> {
    return this.write(async () => {
      if (runId !== null && (await findRun(this.writing, runId)) === undefined)
        throw new ServerProblem('/gone', 'This run is not kept any more.');
      const changed = await this.writing.run('UPDATE pipelines SET baseline = ? WHERE name = ?', [runId, name]);
      if (changed === 0) throw new ServerProblem('/not-found', `There is no saved pipeline ${name}.`);
      return null;
    });
  }

  settings(): Promise<Settings> {
    return readSettings(this.reading);
  }

  setSettings(change: SettingsChange): Promise<Reply<Settings>> {
    return this.write(() => writeSettings(this.writing, change));
  }

  // Indexes

  addIndex(collectionId: number, index: StoredIndex): Promise<Reply<null>> {
    return this.write(async () => {
      await this.models.indexes.create({ collectionId, ...index });
      return null;
    });
  }

  removeIndex(collectionId: number, name: string): Promise<Reply<null>> {
    return this.write(async () => {
      await this.models.indexes.destroy({ where: { collectionId, name } });
      await this.writing.run('DELETE FROM indexUse WHERE collectionId = ? AND name = ?', [collectionId, name]);
      return null;
    });
  }

  // Saved pipelines

  pipelines(): Promise<SavedPipeline[]> {
    return this.turn.runExclusive(async () => (await this.models.pipelines.findAll({ order: ['name'] })).map(savedOf));
  }

  savePipeline(name: string, body: Omit<SavedPipeline, 'name' | 'updatedAt'>): Promise<Reply<SavedPipeline>> {
    return this.write(async () => {
      const [row] = await this.models.pipelines.upsert({
        name,
        pipeline: body.pipeline,
        view: body.view,
        parameters: body.parameters === null ? null : JSON.stringify(body.parameters),
        guards: body.guards === null ? null : JSON.stringify(body.guards),
        note: body.note,
        chart: body.chart === null ? null : JSON.stringify(body.chart),
        updatedAt: new Date().toISOString(),
      });
      return savedOf(row);
    });
  }

  /** Gives a saved pipeline another name, and writes those anew that read it. */
  renamePipeline(
    name: string,
    next: string,
    rewritten: readonly { readonly name: string; readonly pipeline: string }[],
  ): Promise<Reply<null>> {
    return this.write(async () => {
      if (await this.models.pipelines.findByPk(next)) throw new ServerProblem('/exists', `There is a saved pipeline ${next} already.`);
      await this.writing.run('UPDATE pipelines SET name = ? WHERE name = ?', [next, name]);
      for (const one of rewritten) await this.models.pipelines.update({ pipeline: one.pipeline }, { where: { name: one.name } });
      return null;
    });
  }

  removePipeline(name: string): Promise<Reply<boolean>> {
    return this.write(async () => (await this.models.pipelines.destroy({ where: { name } })) > 0);
  }
}

function missing(collection: StoredCollection, identity: string): ServerProblem {
  return new ServerProblem('/not-found', `There is no document ${JSON.stringify(identity)} in ${collection.name}.`);
}

async function ask(check: Check | null, puts: readonly TextPut[]): Promise<void> {
  const answer = await check?.(puts);
  if (answer !== undefined && 'problem' in answer)
    throw Object.assign(new ServerProblem('/unique', answer.problem.detail ?? ''), { problem: answer.problem });
}
