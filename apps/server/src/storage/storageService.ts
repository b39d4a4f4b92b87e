import type {
  ChangeAnswer,
  ChangedDocumentInfo,
  ChangeInfo,
  FileCheck,
  IndexInfo,
  KeptRunDetail,
  RunList,
  SavedPipeline,
  Settings,
} from '@zesty-sieve/contract';
import type { AskedBefore } from '../told/askedBefore.ts';
import { reply, ServerProblem, unwrap, type Reply } from '../problem.ts';
import type { Once } from '../threads/messages.ts';
import { answered } from './answerStore.ts';
import { changedDocuments, describeChange, findChange, listChanges, OpenChange, undoChange, type ChangeToMake } from './changeStore.ts';
import { Collections } from './collections.ts';
import { Connections } from './connections.ts';
import { Documents } from './documents.ts';
import { Exporter, type ExportHow } from './exporter.ts';
import { checkFile } from './fileCheck.ts';
import { Imports } from './imports.ts';
import { askedBefore, findRun, indexUse, keepRuns, listRuns, type RunToKeep } from './runStore.ts';
import { savedOf, type PipelineColumns } from './savedPipeline.ts';
import { readSettings, writeSettings, type SettingsChange } from './settingsStore.ts';
import { ask, type Check, type StoredCollection, type StoredIndex, type TextPut } from './stored.ts';

/** Each export keeps what the file was when it began. */
const mostExports = 8;

/**
 * Everything that is kept on disk, in a thread of its own. One connection writes, one operation at a time; another
 * reads what is committed. A change is acknowledged when its transaction has been committed.
 */
export class StorageService {
  private connections!: Connections;
  private stored!: Collections;
  private documents!: Documents;
  private imports!: Imports;
  private readonly exports = new Map<number, Exporter | undefined>();
  private nextHandle = 1;
  private undoBytes = 0;

  async open(file: string, undoBytes: number): Promise<Reply<null>> {
    return reply(async () => {
      this.undoBytes = undoBytes;
      this.connections = await Connections.open(file);
      this.stored = new Collections(this.connections);
      this.documents = new Documents(this.connections, this.stored);
      this.imports = new Imports(this.connections, this.stored);
      await this.stored.forgetLostScratch();
      return null;
    });
  }

  async close(): Promise<void> {
    await this.connections.close();
  }

  /** Copies the database into another file, as it is at one moment. */
  async backup(to: string): Promise<void> {
    await this.connections.copyTo(to);
  }

  checkFile(collection: StoredCollection): Promise<FileCheck> {
    return checkFile(this.connections, collection);
  }

  /** What a write that is made once has given, where it has been made. */
  answered(once: Once): Promise<Reply<{ readonly value: unknown } | null>> {
    return reply(async () => (await answered(this.connections.reading, once)) ?? null);
  }

  /** Gives free space back to the file system. */
  giveBack(): Promise<void> {
    return this.connections.giveBack();
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

  previewImport(...given: Parameters<Imports['preview']>) {
    return this.imports.preview(...given);
  }

  load(...given: Parameters<Imports['load']>) {
    return this.imports.load(...given);
  }

  // Exporting

  /** Begins an export of a collection as it is now. @throws ServerProblem where too many are under way */
  beginExport(collection: StoredCollection, how: ExportHow): Promise<Reply<number>> {
    return reply(async () => {
      if (this.exports.size >= mostExports)
        throw new ServerProblem(
          '/busy',
          `${mostExports} exports are under way, each of which keeps the file as it was. Try again when one has ended.`,
        );
      const handle = this.nextHandle++;
      // Its place is taken before anything is waited for.
      this.exports.set(handle, undefined);
      try {
        this.exports.set(handle, new Exporter(await this.connections.snapshot(), collection.id, how));
      } catch (error) {
        this.exports.delete(handle);
        throw error;
      }
      return handle;
    });
  }

  /** The next piece of an export, or null at its end; an export that is not known has not come to its end. */
  nextPiece(handle: number): Promise<Reply<string | null>> {
    return reply(async () => {
      const open = this.exports.get(handle);
      if (open === undefined) throw new ServerProblem('/restarted', 'The storage began anew amid the export. Export again.');
      return open.next();
    });
  }

  async endExport(handle: number): Promise<void> {
    const open = this.exports.get(handle);
    this.exports.delete(handle);
    await open?.close();
  }

  // Changes of many documents

  /**
   * Makes a change in one transaction, asking for its documents in parts until there are no more. Other writers wait.
   * @returns what is told of it, so that it can be told again
   */
  makeChange(
    collection: StoredCollection,
    { identities, ...made }: ChangeToMake & { readonly identities: string[] },
    nextPart: () => Promise<readonly TextPut[] | null>,
  ): Promise<Reply<ChangeAnswer>> {
    return this.connections.write(async () => {
      const { writing } = this.connections;
      const change = new OpenChange(writing, collection, this.undoBytes, await this.stored.expectedOf(collection.id));
      await change.begin(made);
      for (let part = await nextPart(); part !== null; part = await nextPart()) await change.push(part);
      const { kept } = await change.finish();
      return { changeId: change.id, matched: made.matched, changed: made.changed, identities, kept };
    });
  }

  changes(collectionId: number | null): Promise<ChangeInfo[]> {
    return listChanges(this.connections.readingScratch, collectionId);
  }

  change(id: string): Promise<Reply<ChangeInfo>> {
    return reply(() => describeChange(this.connections.readingScratch, id));
  }

  changedDocuments(id: string, offset: number, size: number): Promise<Reply<{ documents: ChangedDocumentInfo[]; hasMore: boolean }>> {
    return reply(() => changedDocuments(this.connections.readingScratch, id, offset, size));
  }

  undoChange(id: string, check: Check | null): Promise<Reply<{ puts: TextPut[]; restored: number }>> {
    return this.connections.write(async () => {
      const puts = await undoChange(this.connections.writing, await findChange(this.connections.writing, id));
      await ask(check, puts);
      return { puts, restored: puts.length };
    });
  }

  // Runs

  async keepRuns(runs: readonly RunToKeep[]): Promise<void> {
    const mostRuns = (await this.settings()).runsKept;
    unwrap(await this.connections.write(() => keepRuns(this.connections.writing, runs, mostRuns)));
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

  /** @returns what is told of it, so that it can be told again */
  addIndex(collectionId: number, index: StoredIndex, told: IndexInfo): Promise<Reply<IndexInfo>> {
    return this.connections.write(async () => {
      await this.connections.models.indexes.create({ collectionId, ...index });
      return told;
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

  async pipelines(): Promise<SavedPipeline[]> {
    return (await this.connections.reading.all<PipelineColumns>('SELECT * FROM pipelines ORDER BY name')).map(savedOf);
  }

  savePipeline(name: string, body: Omit<SavedPipeline, 'name' | 'updatedAt'>): Promise<Reply<SavedPipeline>> {
    return this.connections.write(async () => {
      const updatedAt = new Date().toISOString();
      await this.connections.models.pipelines.upsert({
        name,
        pipeline: body.pipeline,
        view: body.view,
        parameters: body.parameters === null ? null : JSON.stringify(body.parameters),
        guards: body.guards === null ? null : JSON.stringify(body.guards),
        note: body.note,
        chart: body.chart === null ? null : JSON.stringify(body.chart),
        updatedAt,
      });
      return { name, ...body, updatedAt };
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
