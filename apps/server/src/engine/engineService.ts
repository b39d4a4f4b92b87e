import {
  summaryOf,
  UniqueStage,
  type StageMode,
  checkPipeline,
  Engine,
  fieldTree,
  jsonSchemaOf,
  keyTexts,
  namedSources,
  odditiesOf,
  withViewShapes,
  overlapsOf,
  parsePipeline,
  printExpression,
  printPipeline,
  type Answer,
  type ChangedDocument,
  type ChangeRequest,
  type FieldTree,
  type View,
  type EngineProblem,
  type IndexRequest,
  type JsonObject,
  type OrderedIndex,
  type PlanRequest,
  type QueryRequest,
} from '@zesty-sieve/core';
import type { Advice, IndexBuild, IndexInfo, Shape } from '@zesty-sieve/contract';
import { v7 as uuidv7 } from 'uuid';
import { LeafColumns } from '../formats/csvOut.ts';
import { reply, ServerProblem, type Reply } from '../problem.ts';
import { Database } from '../storage/database.ts';
import type { StoredCollection, TextPut } from '../storage/stored.ts';
import { fieldOf } from './fieldOf.ts';
import { adviseOnHistory, servedByWhatIf, usersOf, type AskedBefore } from './advising.ts';
import { measure, measurePair, type Measured, type MeasuredPair, type MeasureRequest } from './measure.ts';
import { IndexBuilds } from './indexBuilds.ts';
import { definitionOf, uniqueProblem } from './indexRequests.ts';
import { isKept, recordOf } from './runRecord.ts';
import type { RunToKeep } from '../storage/runStore.ts';
import { Residency } from './residency.ts';

/** Lets messages of the host in between two slices of work. */
const pause = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

/** An index as the engine knows it: how often it was used is kept elsewhere. */
export type BuiltIndex = Omit<IndexInfo, 'uses' | 'lastUsedAt'>;

/** JSON text that is passed on as it is. */
export type JsonText = string;

/** The engine in its thread: everything that looks at documents. Answers are made into JSON text here. */
export class EngineService {
  private readonly engine = new Engine({ pause, newId: uuidv7, now: () => new Date() });
  private database!: Database;
  private residency!: Residency;

  async open(file: string, budgetBytes: number): Promise<void> {
    this.database = await Database.open(file);
    this.residency = new Residency(this.engine, this.database, budgetBytes, pause);
  }

  /** Lets go of the file. A statement that is under way is waited for: ending the thread amid one brings the process down. */
  async close(): Promise<void> {
    await this.database.close();
  }

  /** Runs a pipeline on a collection; `cancel` is a shared flag, not zero when the run is to end. */
  async query(
    sources: readonly StoredCollection[],
    names: readonly string[],
    request: QueryRequest,
    cancel: SharedArrayBuffer,
  ): Promise<{ answer: Reply<JsonText>; kept: RunToKeep | null }> {
    const flag = new Int32Array(cancel);
    let kept: RunToKeep | null = null;
    const answer = reply(async () => {
      await this.ready(sources, names, request.pipeline, flag);
      const result = await this.engine.query(request, () => Atomics.load(flag, 0) !== 0);
      const told = result.ok
        ? result.value
        : 'explained' in result.problem
          ? { ...result.problem.explained, cost: result.problem.cost }
          : null;
      const stopped = result.ok ? null : problemOf(result.problem).problem;
      if (told !== null && isKept(request))
        kept = recordOf(result.ok ? result.value.runId : uuidv7(), request, sources, told as never, stopped);
      return JSON.stringify(valueOf(result));
    });
    return { answer: await answer, kept };
  }

  plan(sources: readonly StoredCollection[], names: readonly string[], request: PlanRequest): Promise<Reply<JsonText>> {
    return this.about(sources, names, request.pipeline, async () => this.engine.plan(request));
  }

  counts(
    sources: readonly StoredCollection[],
    names: readonly string[],
    request: QueryRequest & { line: number; conditions: readonly string[] },
    cancel: SharedArrayBuffer,
  ): Promise<Reply<JsonText>> {
    const flag = new Int32Array(cancel);
    const { line, conditions, ...query } = request;
    return this.about(
      sources,
      names,
      request.pipeline,
      () => this.engine.countConditions(query, line, conditions, () => Atomics.load(flag, 0) !== 0),
      flag,
    );
  }

  trace(
    sources: readonly StoredCollection[],
    names: readonly string[],
    { identity, ...query }: QueryRequest & { identity: string },
    cancel: SharedArrayBuffer,
  ): Promise<Reply<JsonText>> {
    const flag = new Int32Array(cancel);
    return this.about(sources, names, query.pipeline, () => this.engine.trace(query, identity, () => Atomics.load(flag, 0) !== 0), flag);
  }

  compare(
    first: { sources: readonly StoredCollection[]; query: QueryRequest },
    second: { sources: readonly StoredCollection[]; query: QueryRequest },
    names: readonly string[],
    cancel: SharedArrayBuffer,
  ): Promise<Reply<JsonText>> {
    const flag = new Int32Array(cancel);
    return this.about(first.sources, names, first.query.pipeline, async () => {
      const both = await this.about(second.sources, names, second.query.pipeline, async () => ({ ok: true, value: {} }));
      if ('problem' in both) throw Object.assign(new ServerProblem('/pipeline', both.problem.detail ?? ''), { problem: both.problem });
      return this.engine.compare(first.query, second.query, () => Atomics.load(flag, 0) !== 0);
    });
  }

  /** Runs a question on collections that are seen to be in memory first. `names` are those that a pipeline may read. */
  private about(
    sources: readonly StoredCollection[],
    names: readonly string[],
    pipeline: string,
    work: () => Promise<Answer<object>>,
    flag?: Int32Array,
  ): Promise<Reply<JsonText>> {
    return reply(async () => {
      await this.ready(sources, names, pipeline, flag);
      return JSON.stringify(valueOf(await work()));
    });
  }

  /** @throws ServerProblem where the pipeline names what is not there */
  private async ready(sources: readonly StoredCollection[], names: readonly string[], pipeline: string, flag?: Int32Array): Promise<void> {
    const named = namedSources(pipeline);
    if (named.length === 0 || named.some((name) => !names.includes(name))) {
      const { diagnostics } = checkPipeline(parsePipeline(pipeline), { collections: names });
      throw problemOf({ kind: 'pipeline', message: diagnostics[0]?.message ?? 'The pipeline names no collection.', diagnostics });
    }
    const loaded = this.residency.ensureAll(sources);
    await (flag === undefined ? loaded : unlessCancelled(loaded, flag));
  }

  /** The saved pipelines that others can read. */
  setViews(views: readonly (readonly [string, View])[]): void {
    this.engine.setViews(new Map(views));
  }

  rows(runId: string, offset: number, size: number): Promise<Reply<JsonText>> {
    return reply(() => JSON.stringify(valueOf(this.engine.rows(runId, offset, size))));
  }

  /** A piece of all rows of a run, as text of a format; the header of a CSV comes with the first. */
  rowsPiece(
    runId: string,
    offset: number,
    size: number,
    format: 'ndjson' | 'json' | 'csv',
  ): Promise<Reply<{ text: string; done: boolean }>> {
    return reply(() => {
      const { documents, hasMore } = valueOf(this.engine.rows(runId, offset, size));
      if (format === 'ndjson') return { text: documents.map((row) => JSON.stringify(row) + '\n').join(''), done: !hasMore };
      if (format === 'json') {
        const opening = offset === 0 ? '[\n' : documents.length > 0 ? ',\n' : '';
        return { text: opening + documents.map((row) => JSON.stringify(row)).join(',\n') + (hasMore ? '' : '\n]\n'), done: !hasMore };
      }
      const columns = this.columnsOf(runId);
      return { text: (offset === 0 ? columns.header : '') + documents.map((row) => columns.row(row)).join(''), done: !hasMore };
    });
  }

  private lastColumns: { runId: string; columns: LeafColumns } | undefined;

  private columnsOf(runId: string): LeafColumns {
    if (this.lastColumns?.runId === runId) return this.lastColumns.columns;
    const columns = new LeafColumns();
    for (let offset = 0, more = true; more; offset += 5_000) {
      const { documents, hasMore } = valueOf(this.engine.rows(runId, offset, 5_000));
      for (const row of documents) columns.add(row);
      more = hasMore;
    }
    this.lastColumns = { runId, columns };
    return columns;
  }

  parse(
    sources: readonly StoredCollection[],
    names: readonly string[],
    views: readonly (readonly [string, View])[],
    text: string,
  ): Promise<Reply<JsonText>> {
    return reply(async () => {
      const pipeline = parsePipeline(text);
      const shapes = new Map<string, FieldTree>();
      for (const stored of sources) shapes.set(stored.name, fieldTree(await (await this.residency.ensure(stored)).shape(pause)));
      const { diagnostics } = checkPipeline(pipeline, {
        collections: names,
        shapeOf: withViewShapes((name) => shapes.get(name), new Map(views)),
      });
      return JSON.stringify({ diagnostics, canonical: printPipeline(pipeline), tree: pipeline.stages });
    });
  }

  shape(stored: StoredCollection): Promise<Reply<JsonText>> {
    return reply(async () => {
      const collection = await this.residency.ensure(stored);
      const fields = await collection.shape(pause);
      const oddities = odditiesOf(fields);
      const shape: Shape = {
        collection: stored.name,
        count: collection.store.count,
        fields: fields.map((field, i) => fieldOf(field, oddities[i])),
      };
      return JSON.stringify(shape);
    });
  }

  jsonSchema(stored: StoredCollection): Promise<Reply<JsonText>> {
    return reply(async () => JSON.stringify(jsonSchemaOf(stored.name, await (await this.residency.ensure(stored)).shape(pause)), null, 2));
  }

  /** Pairs of fields of two collections whose values overlap. */
  overlaps(first: StoredCollection, second: StoredCollection): Promise<Reply<JsonText>> {
    return reply(async () => {
      const sides = await Promise.all(
        [first, second].map(async (stored) => {
          const collection = await this.residency.ensure(stored);
          return { store: collection.store, fields: await collection.shape(pause) };
        }),
      );
      return JSON.stringify({ pairs: await overlapsOf(sides[0], sides[1], pause) });
    });
  }

  /** How far the loading of a collection into memory has come; null where it is not being loaded. */
  loading(name: string): { documents: number; of: number } | null {
    return this.residency.progress.get(name) ?? null;
  }

  // Changes that are committed

  /** Whether unique indexes let documents be put; looked at before they are committed. */
  check(stored: StoredCollection, puts: readonly TextPut[]): Promise<Reply<null>> {
    return reply(async () => {
      const collection = await this.residency.ensure(stored);
      const changes = puts.map(({ position, text }) => ({
        position,
        before: collection.store.documents[position],
        after: text === null ? undefined : (JSON.parse(text) as JsonObject),
      }));
      for (const index of collection.indexList) {
        const violation = index.violation(changes);
        if (violation) throw uniqueProblem(violation);
      }
      return null;
    });
  }

  /**
   * The same for a part of an import: for each text, why a unique index refuses it. What was let through before
   * under the same handle counts as taken.
   */
  async refusals(stored: StoredCollection, handle: string, mode: StageMode, texts: readonly string[]): Promise<(string | null)[]> {
    const collection = await this.residency.ensure(stored);
    const stage = this.stages.get(handle) ?? new UniqueStage(collection.indexList, mode);
    this.stages.set(handle, stage);
    return texts.map((text) => {
      const document = parsedOrNull(text);
      if (document === null) return null;
      const { identity, position } = collection.placeOf(document);
      // Whoever is there already is passed over or rejected for its identity, which says more.
      if (mode === 'beside' && position !== undefined) return null;
      return stage.take({ document, identity, position })?.message ?? null;
    });
  }

  endStage(handle: string): void {
    this.stages.delete(handle);
  }

  private readonly stages = new Map<string, UniqueStage>();

  /** Takes over committed documents. A collection that is not in memory needs nothing. */
  async apply(name: string, puts: readonly TextPut[]): Promise<void> {
    const collection = this.engine.collections.get(name);
    if (collection === undefined || !this.residency.isResident(name)) return;
    await collection.apply(
      puts.map(({ position, text }) => ({ position, document: text === null ? undefined : (JSON.parse(text) as JsonObject) })),
    );
  }

  /** Reads committed documents again: those from a position on, and some before it. */
  async refresh(stored: StoredCollection, from: number, to: number, replaced: readonly number[]): Promise<void> {
    const collection = this.engine.collections.get(stored.name);
    if (collection === undefined || !this.residency.isResident(stored.name)) return;
    const puts: { position: number; document: JsonObject }[] = [];
    const put = (position: number, document: JsonObject) => puts.push({ position, document });
    await this.residency.read(stored, from, to, put);
    for (const position of replaced) if (position < from) await this.residency.read(stored, position, position + 1, put);
    await collection.apply(puts);
    this.residency.progress.delete(stored.name);
  }

  forget(name: string): void {
    this.residency.forget(name);
  }

  // Changes of many documents

  previewChange(
    sources: readonly StoredCollection[],
    names: readonly string[],
    request: ChangeRequest & { offset: number; size: number },
    undoBytes: number,
    cancel: SharedArrayBuffer,
  ): Promise<Reply<JsonText>> {
    const flag = new Int32Array(cancel);
    return reply(async () => {
      await this.ensureFor(sources[0] ?? null, names, request.change);
      const preview = valueOf(await this.engine.previewChange(request, () => Atomics.load(flag, 0) !== 0));
      return JSON.stringify({ ...preview, plan: preview.plan, weighed: preview.weighed, keeps: preview.bytes <= undoBytes });
    });
  }

  /** Works a change out and keeps it until it is ended. Unique indexes are asked about all of it at once. */
  beginChange(
    sources: readonly StoredCollection[],
    names: readonly string[],
    request: ChangeRequest,
    cancel: SharedArrayBuffer,
  ): Promise<Reply<{ handle: string; matched: number; identities: string[] }>> {
    const flag = new Int32Array(cancel);
    return reply(async () => {
      await this.ensureFor(sources[0] ?? null, names, request.change);
      const { collection, matched, changed } = valueOf(await this.engine.computeChange(request, () => Atomics.load(flag, 0) !== 0));
      for (const index of collection.indexList) {
        const violation = index.violation(changed);
        if (violation) throw uniqueProblem(violation);
      }
      const handle = uuidv7();
      this.changes.set(handle, { collection: collection.name, changed });
      return { handle, matched, identities: changed.map(({ identity }) => identity) };
    });
  }

  private readonly changes = new Map<string, { collection: string; changed: readonly ChangedDocument[] }>();

  /** A part of a change as texts to be stored. */
  changePart(handle: string, offset: number, size: number): TextPut[] {
    const { changed } = this.openChange(handle);
    return changed
      .slice(offset, offset + size)
      .map(({ position, after }) => ({ position, text: after === undefined ? null : JSON.stringify(after) }));
  }

  /** Takes a committed change over. */
  async applyChange(handle: string): Promise<void> {
    const { collection, changed } = this.openChange(handle);
    if (!this.residency.isResident(collection)) return;
    await this.engine.collections.get(collection)?.apply(changed.map(({ position, after }) => ({ position, document: after })));
  }

  endChange(handle: string): void {
    this.changes.delete(handle);
  }

  private openChange(handle: string) {
    const open = this.changes.get(handle);
    if (open === undefined) throw new ServerProblem('/restarted', 'The engine was restarted. Nothing was changed.');
    return open;
  }

  private async ensureFor(stored: StoredCollection | null, names: readonly string[], text: string): Promise<void> {
    if (stored !== null) {
      await this.residency.ensure(stored);
      return;
    }
    const { diagnostics } = checkPipeline(parsePipeline(text), { collections: names, purpose: 'change' });
    throw problemOf({ kind: 'pipeline', message: diagnostics[0]?.message ?? 'The change names no collection.', diagnostics });
  }

  // Indexes

  async indexes(stored: StoredCollection): Promise<Reply<BuiltIndex[]>> {
    return reply(async () => {
      const collection = await this.residency.ensure(stored);
      const known = new Map(stored.indexes.map((index) => [index.name, index]));
      return collection.indexList.map((index) => infoOf(index, known.get(index.definition.name)));
    });
  }

  /** Builds an index; it is used from then on. */
  createIndex(stored: StoredCollection, request: IndexRequest): Promise<Reply<BuiltIndex & { definition: string }>> {
    return reply(async () => {
      const { index, definition, ...kept } = await this.builds.build(stored.name, request, () => this.residency.ensure(stored));
      return { ...infoOf(index, kept), definition };
    });
  }

  private readonly builds = new IndexBuilds(pause);

  buildsOf(name: string): IndexBuild[] {
    return this.builds.list(name);
  }

  cancelBuild(name: string, index: string): boolean {
    return this.builds.cancel(name, index);
  }

  indexSummary(stored: StoredCollection, name: string): Promise<Reply<JsonText>> {
    return reply(async () => {
      const index = (await this.residency.ensure(stored)).index(name);
      if (index === undefined) throw new ServerProblem('/not-found', `${stored.name} has no index ${name}.`);
      return JSON.stringify(summaryOf(index));
    });
  }

  /** Who would read more without an index, of those that have been asked and those that are saved. */
  indexUsers(
    stored: StoredCollection,
    index: string,
    sources: readonly StoredCollection[],
    asked: readonly AskedBefore[],
  ): Promise<Reply<JsonText>> {
    return reply(async () => {
      await this.residency.ensureAll([stored, ...sources]);
      return JSON.stringify({ users: await usersOf(this.engine, stored.name, index, asked, pause) });
    });
  }

  advise(sources: readonly StoredCollection[], asked: readonly AskedBefore[]): Promise<Reply<Advice['build']>> {
    return reply(async () => {
      await this.residency.ensureAll(sources);
      return adviseOnHistory(this.engine, asked, pause);
    });
  }

  whatIf(
    sources: readonly StoredCollection[],
    indexes: readonly (IndexRequest & { readonly collection: string })[],
    asked: readonly AskedBefore[],
  ): Promise<Reply<Advice['build'][number]['serves']>> {
    return reply(async () => {
      await this.residency.ensureAll(sources);
      for (const index of indexes) definitionOf(index);
      return servedByWhatIf(this.engine, indexes, asked, pause);
    });
  }

  measurePair(
    sources: readonly StoredCollection[],
    first: Omit<QueryRequest, 'pageSize'>,
    second: Omit<QueryRequest, 'pageSize'>,
    times: number,
    cancel: SharedArrayBuffer,
  ): Promise<Reply<MeasuredPair>> {
    const flag = new Int32Array(cancel);
    return reply(async () => {
      await this.residency.ensureAll(sources);
      const query = (request: QueryRequest) => this.engine.query(request, () => Atomics.load(flag, 0) !== 0).then(valueOf);
      return measurePair(query, { ...first, pageSize: 0 }, { ...second, pageSize: 0 }, times);
    });
  }

  dropIndex(name: string, index: string): void {
    this.engine.collections.get(name)?.dropIndex(index);
  }

  measure(sources: readonly StoredCollection[], request: MeasureRequest, cancel: SharedArrayBuffer): Promise<Reply<Measured>> {
    const flag = new Int32Array(cancel);
    return reply(async () => {
      await this.residency.ensureAll(sources);
      return measure((query) => this.engine.query(query, () => Atomics.load(flag, 0) !== 0).then(valueOf), request);
    });
  }
}

const cancelPollMs = 50;

/**
 * Waits for work that goes on for others, such as bringing a collection into memory, no longer than whoever asked does: a run
 * that is cancelled meanwhile ends at once, and the work is not lost.
 */
async function unlessCancelled<T>(work: Promise<T>, flag: Int32Array): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const cancelled = new Promise<never>((_resolve, reject) => {
    timer = setInterval(() => {
      if (Atomics.load(flag, 0) !== 0) reject(new ServerProblem('/cancelled', 'The run was cancelled.'));
    }, cancelPollMs);
  });
  try {
    return await Promise.race([work, cancelled]);
  } finally {
    clearInterval(timer);
  }
}

function parsedOrNull(text: string): JsonObject | null {
  try {
    const value = JSON.parse(text) as unknown;
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as JsonObject) : null;
  } catch {
    return null;
  }
}

function infoOf(
  { definition, entries, bytes }: OrderedIndex,
  stored: { createdAt: string; buildMs: number | null } | undefined,
): BuiltIndex {
  return {
    name: definition.name,
    keys: keyTexts(definition),
    kind: definition.kind,
    unique: definition.unique || stored === undefined,
    where: definition.where === undefined ? null : printExpression(definition.where),
    entries,
    bytes,
    createdAt: stored?.createdAt ?? null,
    buildMs: stored?.buildMs ?? null,
  };
}

function problemOf(problem: EngineProblem): ServerProblem {
  const { kind, message, ...rest } = problem;
  // The plan of a run that a guard ended stands in the problem as in an answer.
  const more = 'explained' in rest ? { ...rest.explained, ...rest, explained: undefined } : rest;
  return new ServerProblem(`/${kind}`, message, more);
}

/** The value of an answer; its problem is thrown. */
function valueOf<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  throw problemOf(answer.problem);
}
