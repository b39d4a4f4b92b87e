import { milliseconds } from '../values/clock.ts';
import { makesRows } from '../execution/ownership.ts';
import { rowsAlone, rowsToKeep, type Wanted } from '../execution/run.ts';
import type { Views } from '../language/sources.ts';
import { isChange } from './changes.ts';
import { ChangeWorkings, type ComputedChange } from './changeWorkings.ts';
import { Collection } from './collection.ts';
import { compareRows, type RowComparison } from './compareRows.ts';
import { ConditionCounter, type ConditionCounts } from './conditionCounts.ts';
import type { DefinitionOf } from './stepWords.ts';
import { followDocument } from './followDocument.ts';
import { identityNames } from '../language/identityNames.ts';
import { identityText } from './identities.ts';
import { Keeping } from './keeping.ts';
import { KeptRuns } from './keptRuns.ts';
import { Followers } from './following/followers.ts';
import type { MaterializedView } from './keptViews.ts';
import { collectionsOf } from '../planner/physical.ts';
import { loopsText } from './loopsText.ts';
import { approximationOf } from './searchNotes.ts';
import { Result, sourcePlace } from './result.ts';
import type { Finished, MadePlan, Prepared } from './prepared.ts';
import { originsOf, type Origins, type OriginsRequest } from './originsOf.ts';
import { Preparer } from './preparer.ts';
import { Runner } from './runner.ts';
import { StepwiseRuns } from './stepwiseRuns.ts';
import {
  type Approximation,
  type RowsPage,
  answered,
  type Answer,
  type ChangePreview,
  type ChangeRequest,
  type Explained,
  type PlanRequest,
  type QueryRequest,
} from './requests.ts';
import type { EngineHost } from './host.ts';
import { Telling } from './telling.ts';
import type { Trace } from './traceDocument.ts';

/** The engine: collections in memory, and questions about them. */
export class Engine {
  readonly collections = new Map<string, Collection>();
  private readonly host: EngineHost;
  private readonly kept: KeptRuns;
  private readonly definitionOf: DefinitionOf = (collection, index) => this.collections.get(collection)?.index(index)?.definition;
  private readonly preparer = new Preparer(this.collections);
  private readonly runner: Runner;
  private readonly changeWorkings: ChangeWorkings;
  /** Those whose rows are kept up with each change. */
  readonly followers: Followers;
  /** What keeping the rows of a pipeline would take, and be of use for. */
  readonly keeping: Keeping;

  constructor(host: EngineHost) {
    this.host = host;
    this.runner = new Runner(this.preparer, host, this.definitionOf);
    this.kept = new KeptRuns(milliseconds, host.keptBytes);
    this.followers = new Followers(this.collections, (view) => this.preparer.stagesOfKept(view), host.pause);
    this.keeping = new Keeping(this.preparer, host.pause, {
      work: (request, isCancelled) => this.query(request, isCancelled, rowsToKeep),
      rowsOf: (runId) => this.kept.find(runId)?.rows,
    });
    const planNow = (prepared: Prepared, request: PlanRequest) => this.preparer.plan(prepared, request, this.runner.now());
    this.changeWorkings = new ChangeWorkings(
      this.collections,
      host.pause,
      this.runner.prepared.bind(this.runner),
      planNow,
      this.definitionOf,
    );
  }

  /** The saved pipelines that others can read as sources. */
  setViews(views: Views): void {
    this.preparer.setViews(views);
  }

  /** The saved pipelines whose rows are kept: each a collection of its name. */
  setKeptViews(views: readonly MaterializedView[]): void {
    this.preparer.setKeptViews(views);
    this.followers.keepOnly(new Set(views.map(({ name }) => name)));
  }

  /** The materialized views that may answer a pipeline unasked, so that their rows should be in memory. */
  keptViewsFor(pipeline: string): string[] {
    return this.preparer.keptViewsFor(pipeline);
  }

  /** Adds an empty collection, in place of one of that name. */
  define(name: string, identityPath: string): Collection {
    const collection = new Collection(name, identityPath);
    this.collections.set(name, collection);
    this.preparer.forget();
    return collection;
  }

  /** Takes a collection over that was made elsewhere, in place of one of its name. */
  adopt(collection: Collection): void {
    this.collections.set(collection.name, collection);
    this.preparer.forget();
  }

  remove(name: string): void {
    this.collections.delete(name);
    this.followers.endReaders(name);
    this.preparer.forget();
  }

  /** Plans a pipeline or a change without running it. */
  plan(request: PlanRequest): Answer<Explained | Telling> {
    const made = this.planned(
      request,
      ({ planned, whatIf }, reading) => new Telling({ planned, reading, definitions: this.definitionOf, whatIf }),
    );
    return !made.ok && isChange(request.pipeline) ? this.changeWorkings.plan(request) : made;
  }

  /** The loops that a pipeline would be run as, as text: what is generated of its plan, to be read. */
  loops(request: PlanRequest): Answer<string> {
    return this.planned(request, ({ planned }, reading) => loopsText(planned, reading, this.definitionOf));
  }

  private planned<T>(request: PlanRequest, tell: (made: MadePlan, reading: Prepared['reading']) => T): Answer<T> {
    const prepared = this.preparer.prepare(request);
    if (!prepared.ok) return prepared;
    const made = this.preparer.plan(prepared.value, request, this.runner.now(), true);
    return made.ok ? answered(tell(made.value, prepared.value.reading)) : made;
  }

  /** Runs a pipeline to its end, letting others work between slices. @param wanted `rowsToKeep` where they are to be kept */
  async query(request: QueryRequest, isCancelled: () => boolean = () => false, wanted: Wanted = rowsAlone): Promise<Answer<Result>> {
    const done = await this.runner.toEnd(request, isCancelled, wanted);
    return done.ok ? answered(this.finish(done.value, request)) : done;
  }

  /** How many of the rows that reach a line each of several conditions would keep alone. */
  async countConditions(
    request: QueryRequest,
    line: number,
    conditions: readonly string[],
    isCancelled: () => boolean,
  ): Promise<Answer<ConditionCounts>> {
    const counter = new ConditionCounter(conditions, request.parameters ?? {}, this.runner.now());
    const done = await this.runner.toEnd({ ...request, throughLine: line - 1 }, isCancelled, { take: (rows) => counter.add(rows) });
    return done.ok ? answered(counter.result(done.value.run.watch.cutShort)) : done;
  }

  /** Compares the results of two pipelines. */
  async compare(
    first: QueryRequest,
    second: QueryRequest,
    isCancelled: () => boolean,
  ): Promise<Answer<RowComparison & { approximate: readonly (Approximation | null)[] }>> {
    const a = await this.runner.toEnd(first, isCancelled, rowsAlone);
    if (!a.ok) return a;
    const b = await this.runner.toEnd(second, isCancelled, rowsAlone);
    if (!b.ok) return b;
    const names = identityNames(a.value.collection.identityPath);
    const compared = compareRows(a.value.run.rows, b.value.run.rows, (row) => identityText(row, names));
    return answered({ ...compared, approximate: [a, b].map(({ value }) => approximationOf(value.planned, this.preparer)) });
  }

  /** Follows one document through the lines of a pipeline, and through those of the views whose rows it reads. */
  async trace(request: QueryRequest, identity: string, isCancelled: () => boolean): Promise<Answer<Trace>> {
    const runs = StepwiseRuns.of(request, this.runner, { work: 'Tracing', isCancelled });
    return runs.ok ? followDocument(identity, runs.value) : runs;
  }

  /** The documents that a row of a pipeline comes from, through groups and through views whose rows are kept. */
  origins(request: OriginsRequest, isCancelled: () => boolean): Promise<Answer<Origins>> {
    return originsOf(request, this.runner, isCancelled);
  }

  /** What a change would do, from a run that writes nothing. */
  previewChange(request: ChangeRequest & { offset?: number; size?: number }, isCancelled: () => boolean): Promise<Answer<ChangePreview>> {
    return this.changeWorkings.preview(request, isCancelled);
  }

  /** The documents that a change touches, each with what it becomes. Nothing is written. */
  computeChange(request: ChangeRequest, isCancelled: () => boolean): Promise<Answer<ComputedChange>> {
    return this.changeWorkings.compute(request, isCancelled);
  }

  /** A page of the rows of a run that is still kept. */
  rows(runId: string, offset: number, size: number): Answer<RowsPage> {
    return this.kept.page(runId, offset, size);
  }

  private finish(done: Finished, request: QueryRequest): Result {
    const { run, planned, collection, reading } = done;
    const { root } = planned.physical;
    const runId = this.host.newId();
    const sources = this.preparer.keptViews.readBy(collectionsOf(root));
    const approximate = approximationOf(planned, this.preparer);
    this.kept.keep(runId, { rows: run.kept, collection: collection.name, rowsReturned: run.kept.length, approximate }, makesRows(root));
    const notes = this.preparer.keptViews.notesOf(sources, () => sourcePlace(done));
    return new Result(done, new Telling({ planned, reading, definitions: this.definitionOf, run }), request, {
      runId,
      approximate,
      sources,
      notes,
    });
  }
}
