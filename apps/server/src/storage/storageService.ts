import type { ChangedDocumentInfo, ChangeInfo, ExportFormat, KeptRunDetail, RunList, SavedPipeline, Settings } from '@zesty-sieve/contract';
import type { AskedBefore } from '../engine/advising.ts';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import { changedDocuments, describeChange, findChange, listChanges, OpenChange, undoChange, type ChangeToMake } from './changeStore.ts';
import { Collections } from './collections.ts';
import { Connections } from './connections.ts';
import { Documents } from './documents.ts';
import { Exporter } from './exporter.ts';
import { Imports } from './imports.ts';
import { askedBefore, findRun, indexUse, keepRuns, listRuns, type RunToKeep } from './runStore.ts';
import { savedOf } from './savedPipeline.ts';
import { readSettings, writeSettings, type SettingsChange } from './settingsStore.ts';
import { ask, type Check, type StoredCollection, type StoredIndex, type TextPut } from './stored.ts';

/**
 * Everything that is kept on disk, in a thread of its own. One connection writes, one operation at a time; another
 * reads what is committed. A change is acknowledged when its transaction has been committed.
 */
export class StorageService {
  private connections!: Connections;
  private stored!: Collections;
  private documents!: Documents;
  private imports!: Imports;
  private readonly exports = new Map<number, Exporter>();
  private nextHandle = 1;
  private undoBytes = 0;
  private openChange: { change: OpenChange; release: () => void } | undefined;

  async open(file: string, undoBytes: number): Promise<Reply<null>> {
    return reply(async () => {
      this.undoBytes = undoBytes;
      this.connections = await Connections.open(file);
      this.stored = new Collections(this.connections);
      this.documents = new Documents(this.connections, this.stored);
      this.imports = new Imports(this.connections, this.stored);
      await this.connections.models.collections.destroy({ where: { scratch: true } });
      return null;
    });
  }

  async close(): Promise<void> {
    await this.connections.close();
  }

  /** Copies the database into another file, as it is at one moment. */
  async backup(to: string): Promise<void> {
    await this.connections.reading.run('VACUUM main INTO ?', [to]);
  }

  // Collections

  expectation(...given: Parameters<Collections['expectation']>) {
    return this.stored.expectation(...given);
  }

  setExpectation(...given: Parameters<Collections['setExpectation']>) {
    return this.stored.setExpectation(...given);
  }

  checkExpectation(...given: Parameters<Collections['checkExpectation']>) {
    return this.stored.checkExpectation(...given);
  }

  lastCheck(...given: Parameters<Collections['lastCheck']>) {
    return this.stored.lastCheck(...given);
  }

  keepCheck(...given: Parameters<Collections['keepCheck']>) {
    return this.stored.keepCheck(...given);
  }

  references(...given: Parameters<Collections['references']>) {
    return this.stored.references(...given);
  }

  fieldNotes(...given: Parameters<Collections['fieldNotes']>) {
    return this.stored.fieldNotes(...given);
  }

  setFieldNote(...given: Parameters<Collections['setFieldNote']>) {
    return this.stored.setFieldNote(...given);
  }

  collections(...given: Parameters<Collections['list']>) {
    return this.stored.list(...given);
  }

  createCollection(...given: Parameters<Collections['create']>) {
    return this.stored.create(...given);
  }

  renameCollection(...given: Parameters<Collections['rename']>) {
    return this.stored.rename(...given);
  }

  setIdentity(...given: Parameters<Collections['setIdentity']>) {
    return this.stored.setIdentity(...given);
  }

  clearCollection(...given: Parameters<Collections['clear']>) {
    return this.stored.clear(...given);
  }

  removeCollection(...given: Parameters<Collections['remove']>) {
    return this.stored.remove(...given);
  }

  // Documents

  insert(...given: Parameters<Documents['insert']>) {
    return this.documents.insert(...given);
  }

  replace(...given: Parameters<Documents['replace']>) {
    return this.documents.replace(...given);
  }

  patch(...given: Parameters<Documents['patch']>) {
    return this.documents.patch(...given);
  }

  remove(...given: Parameters<Documents['remove']>) {
    return this.documents.remove(...given);
  }

  read(...given: Parameters<Documents['read']>) {
    return this.documents.read(...given);
  }

  readMany(...given: Parameters<Documents['readMany']>) {
    return this.documents.readMany(...given);
  }

  page(...given: Parameters<Documents['page']>) {
    return this.documents.page(...given);
  }

  // Loading files

  beginImport(...given: Parameters<Imports['begin']>) {
    return this.imports.begin(...given);
  }

  previewImport(...given: Parameters<Imports['preview']>) {
    return this.imports.preview(...given);
  }

  pushImport(...given: Parameters<Imports['push']>) {
    return this.imports.push(...given);
  }

  finishImport(...given: Parameters<Imports['finish']>) {
    return this.imports.finish(...given);
  }

  abandonImport(...given: Parameters<Imports['abandon']>) {
    return this.imports.abandon(...given);
  }

  // Exporting

  beginExport(collection: StoredCollection, format: ExportFormat): number {
    const handle = this.nextHandle++;
    this.exports.set(handle, new Exporter(this.connections.reading, collection.id, format));
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
      const release = await this.connections.turn.acquire();
      const change = new OpenChange(this.connections.writing, collection, this.undoBytes, await this.stored.expectedOf(collection.id));
      this.openChange = { change, release };
      try {
        await this.connections.writing.begin();
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
      await this.connections.writing.run('COMMIT');
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
    await this.connections.writing.run('ROLLBACK').catch(() => undefined);
    release();
  }

  changes(collectionId: number | null): Promise<ChangeInfo[]> {
    return listChanges(this.connections.reading, collectionId);
  }

  change(id: string): Promise<Reply<ChangeInfo>> {
    return reply(() => describeChange(this.connections.reading, id));
  }

  changedDocuments(id: string, offset: number, size: number): Promise<Reply<{ documents: ChangedDocumentInfo[]; hasMore: boolean }>> {
    return reply(() => changedDocuments(this.connections.reading, id, offset, size));
  }

  undoChange(id: string, check: Check | null): Promise<Reply<TextPut[]>> {
    return this.connections.write(async () => {
      const puts = await undoChange(this.connections.writing, await findChange(this.connections.writing, id));
      await ask(check, puts);
      return puts;
    });
  }

  // Runs

  async keepRuns(runs: readonly RunToKeep[]): Promise<void> {
    const mostRuns = (await this.settings()).runsKept;
    await this.connections.turn.runExclusive(() =>
      this.connections.writing.transaction(() => keepRuns(this.connections.writing, runs, mostRuns)),
    );
  }

  runs(query: Parameters<typeof listRuns>[1]): Promise<RunList> {
    return listRuns(this.connections.reading, query);
  }

  run(id: string): Promise<Reply<KeptRunDetail>> {
    return reply(async () => {
      const found = await findRun(this.connections.reading, id);
      if (found === undefined) throw new ServerProblem('/gone', 'This run is not kept any more.');
      return found;
    });
  }

  /** The questions that kept runs asked, and those that are saved: each once, with how often it was run. */
  askedBefore(): Promise<AskedBefore[]> {
    return askedBefore(this.connections.reading);
  }

  indexUse(collectionId: number): ReturnType<typeof indexUse> {
    return indexUse(this.connections.reading, collectionId);
  }

  setBaseline(name: string, runId: string | null): Promise<Reply<null>> {
    return this.connections.write(async () => {
      if (runId !== null && (await findRun(this.connections.writing, runId)) === undefined)
        throw new ServerProblem('/gone', 'This run is not kept any more.');
      const changed = await this.connections.writing.run('UPDATE pipelines SET baseline = ? WHERE name = ?', [runId, name]);
      if (changed === 0) throw new ServerProblem('/not-found', `There is no saved pipeline ${name}.`);
      return null;
    });
  }

  settings(): Promise<Settings> {
    return readSettings(this.connections.reading);
  }

  setSettings(change: SettingsChange): Promise<Reply<Settings>> {
    return this.connections.write(() => writeSettings(this.connections.writing, change));
  }

  // Indexes

  addIndex(collectionId: number, index: StoredIndex): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.models.indexes.create({ collectionId, ...index });
      return null;
    });
  }

  removeIndex(collectionId: number, name: string): Promise<Reply<null>> {
    return this.connections.write(async () => {
      await this.connections.models.indexes.destroy({ where: { collectionId, name } });
      await this.connections.writing.run('DELETE FROM indexUse WHERE collectionId = ? AND name = ?', [collectionId, name]);
      return null;
    });
  }

  // Saved pipelines

  pipelines(): Promise<SavedPipeline[]> {
    return this.connections.turn.runExclusive(async () =>
      (await this.connections.models.pipelines.findAll({ order: ['name'] })).map(savedOf),
    );
  }

  savePipeline(name: string, body: Omit<SavedPipeline, 'name' | 'updatedAt'>): Promise<Reply<SavedPipeline>> {
    return this.connections.write(async () => {
      const [row] = await this.connections.models.pipelines.upsert({
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
    return this.connections.write(async () => {
      if (await this.connections.models.pipelines.findByPk(next))
        throw new ServerProblem('/exists', `There is a saved pipeline ${next} already.`);
      await this.connections.writing.run('UPDATE pipelines SET name = ? WHERE name = ?', [next, name]);
      for (const one of rewritten)
        await this.connections.models.pipelines.update({ pipeline: one.pipeline }, { where: { name: one.name } });
      return null;
    });
  }

  removePipeline(name: string): Promise<Reply<boolean>> {
    return this.connections.write(async () => (await this.connections.models.pipelines.destroy({ where: { name } })) > 0);
  }
}
