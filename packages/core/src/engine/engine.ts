import { makeContext } from '../expressions/context.ts';
import { parseConditionText } from '../language/grammar/texts.ts';
import { milliseconds } from '../execution/clock.ts';
import { defaultGuards } from '../execution/guards.ts';
import { makesRows } from '../execution/ownership.ts';
import { Run } from '../execution/run.ts';
import { IndexProblem, readDefinition, type IndexDefinition } from '../indexes/definition.ts';
import { namedSources, type Views } from '../language/sources.ts';
import type { DefinitionOf } from './describePlan.ts';
import { explain, linesOf, problemOf } from './telling.ts';
import type { SourceLookup } from '../planner/layers/layer.ts';
import { plan, PlanProblem, type Planned, type PlannedStage } from '../planner/plan.ts';
import { invalid, readPipeline, unboundIn, viewStages, type ReadStage } from './prepare.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { ChangeMaker, ChangeProblem, readChange, type ChangedDocument } from './changes.ts';
import { compareRows, type RowComparison } from './compareRows.ts';
import { ConditionCounter, type ConditionCounts } from './conditionCounts.ts';
import { followDocument } from './followDocument.ts';
import { identityNames, identityText } from './identities.ts';
import type { Trace } from './traceDocument.ts';
import { Collection, type Pause } from './collection.ts';
import { KeptRuns } from './keptRuns.ts';
import { notesOf } from './notes.ts';
import {
  answered,
  refused,
  type Answer,
  type ChangePreview,
  type ChangeRequest,
  type Explained,
  type PlanRequest,
  type QueryRequest,
  type QueryResult,
} from './requests.ts';

export interface EngineHost {
  readonly pause: Pause;
  readonly newId: () => string;
  readonly now: () => Date;
}

/** How long a run works before others get their turn. */
const sliceMs = 12;
export const defaultPageSize = 40;

interface Finished {
  readonly run: Run;
  readonly planned: Planned;
  readonly collection: Collection;
}

/** A change worked out and not yet made. */
export interface ComputedChange {
  readonly collection: Collection;
  readonly matched: number;
  readonly changed: readonly ChangedDocument[];
}

interface Prepared {
  readonly stages: readonly PlannedStage[];
  /** As they are written, views not in their places. */
  readonly written: readonly ReadStage[];
  /** The collection that rows come from. */
  readonly collection: Collection;
}

/** The engine: collections in memory, and questions about them. */
export class Engine {
  readonly collections = new Map<string, Collection>();
  private readonly host: EngineHost;
  private readonly kept: KeptRuns;
  private readonly checked = new Map<string, Answer<Prepared>>();
  private views: Views = new Map();

  constructor(host: EngineHost) {
    this.host = host;
    this.kept = new KeptRuns(milliseconds);
  }

  /** The saved pipelines that others can read as sources. */
  setViews(views: Views): void {
    this.views = views;
    this.checked.clear();
  }

  /** Adds an empty collection, in place of one of that name. */
  define(name: string, identityPath: string): Collection {
    const collection = new Collection(name, identityPath);
    this.collections.set(name, collection);
    this.checked.clear();
    return collection;
  }

  remove(name: string): void {
    this.collections.delete(name);
    this.checked.clear();
  }

  /** The collection that a pipeline reads, whether or not it is in memory; undefined where it names none. */
  static sourceOf(pipeline: string): string | undefined {
    return namedSources(pipeline)[0];
  }

  /** Plans without running. */
  plan(request: PlanRequest): Answer<Explained> {
    const prepared = this.prepare(request);
    if (!prepared.ok) return prepared;
    const planned = this.planPrepared(prepared.value, request, this.host.now().toISOString());
    if (!planned.ok) return planned;
    const whatIf = planned.value.whatIf;
    return answered(explain(planned.value.planned, this.definitionOf, whatIf));
  }

  /** Runs a pipeline to its end, letting others work between slices. */
  async query(request: QueryRequest, isCancelled: () => boolean = () => false): Promise<Answer<QueryResult>> {
    const done = await this.runToEnd(request, isCancelled);
    return done.ok ? answered(this.finish(done.value.run, done.value.planned, done.value.collection, request)) : done;
  }

  private async runToEnd(
    request: QueryRequest,
    isCancelled: () => boolean,
    take?: (rows: readonly Json[]) => void,
  ): Promise<Answer<Finished>> {
    const prepared = this.prepare(request);
    return prepared.ok ? this.runPrepared(prepared.value, request, isCancelled, take) : prepared;
  }

  private runPrepared(
    prepared: Prepared,
    request: QueryRequest,
    isCancelled: () => boolean,
    take?: (rows: readonly Json[]) => void,
  ): Promise<Answer<Finished>> {
    const { collection, stages } = prepared;
    return this.reading(stages, async () => {
      const now = this.host.now().toISOString();
      const planned = this.planPrepared(prepared, request, now);
      if (!planned.ok) return planned;
      const run = new Run(planned.value.planned.physical, {
        parameters: request.parameters ?? {},
        now,
        guards: { ...defaultGuards, ...request.guards },
        isCancelled,
        readAtMost: request.readAtMost,
        storeOf: (name) => existing(this.collections.get(name)).store,
        indexOf: (name, index) => existing(this.collections.get(name)?.index(index)),
        take,
      });
      try {
        while (!run.work(sliceMs)) {
          const paused = milliseconds();
          await this.host.pause();
          run.watch.pausedMs += milliseconds() - paused;
        }
      } catch (error) {
        run.close();
        return refused(problemOf(error, run, planned.value.planned, this.definitionOf));
      }
      return answered({ run, planned: planned.value.planned, collection });
    });
  }

  /** How many of the rows that reach a line each of several conditions would keep alone. */
  async countConditions(
    request: QueryRequest,
    line: number,
    conditions: readonly string[],
    isCancelled: () => boolean,
  ): Promise<Answer<ConditionCounts>> {
    const counter = new ConditionCounter(conditions, request.parameters ?? {}, this.host.now().toISOString());
    const done = await this.runToEnd({ ...request, throughLine: line - 1 }, isCancelled, (rows) => counter.add(rows));
    return done.ok ? answered(counter.result(done.value.run.watch.cutShort)) : done;
  }

  /** Compares the results of two pipelines. */
  async compare(first: QueryRequest, second: QueryRequest, isCancelled: () => boolean): Promise<Answer<RowComparison>> {
    const a = await this.runToEnd(first, isCancelled);
    if (!a.ok) return a;
    const b = await this.runToEnd(second, isCancelled);
    if (!b.ok) return b;
    const names = identityNames(a.value.collection.identityPath);
    return answered(compareRows(a.value.run.rows, b.value.run.rows, (row) => identityText(row, names)));
  }

  /** Follows one document through the lines of a pipeline: into several rows, to its partners, into its group. */
  async trace(request: QueryRequest, identity: string, isCancelled: () => boolean): Promise<Answer<Trace>> {
    const prepared = this.prepare(request);
    if (!prepared.ok) return prepared;
    const { written, collection } = prepared.value;
    return followDocument(identity, {
      written,
      collection,
      isView: (name) => this.views.has(name),
      context: makeContext(request.parameters ?? {}, this.host.now().toISOString()),
      runThrough: async (line) => {
        const done = await this.runToEnd({ ...request, throughLine: line }, isCancelled);
        return done.ok ? answered(done.value.run) : done;
      },
    });
  }

  /** What a change would do, from a run that writes nothing. */
  async previewChange(
    request: ChangeRequest & { offset?: number; size?: number },
    isCancelled: () => boolean,
  ): Promise<Answer<ChangePreview>> {
    const made = await this.makeChange(request, isCancelled);
    if (!made.ok) return made;
    const { maker, run, planned, warnings, notes } = made.value;
    const { offset = 0, size = defaultPageSize } = request;
    const { plan, weighed, suggestions, rewrites } = explain(planned, this.definitionOf, [], run);
    return answered({
      matched: maker.matched,
      changed: maker.changed.length,
      repeats: maker.repeats,
      sample: maker.changed.slice(offset, offset + size).map(({ identity, before, after }) => ({ identity, before, after: after ?? null })),
      hasMore: maker.changed.length > offset + size,
      bytes: estimatedBytes(maker.changed),
      warnings,
      notes,
      lines: linesOf(planned.physical, run),
      cost: run.costs,
      plan,
      weighed,
      suggestions,
      rewrites,
    });
  }

  /** The documents that a change touches, each with what it becomes. Nothing is written. */
  async computeChange(request: ChangeRequest, isCancelled: () => boolean): Promise<Answer<ComputedChange>> {
    const made = await this.makeChange(request, isCancelled);
    if (!made.ok) return made;
    const { maker, collection } = made.value;
    return answered({ collection, matched: maker.matched, changed: maker.changed });
  }

  private async makeChange(request: ChangeRequest, isCancelled: () => boolean) {
    const read = readChange(request.change, [...this.collections.keys()], (name) => {
      const known = this.collections.get(name);
      return known && identityNames(known.identityPath);
    });
    const errors = read.diagnostics.filter(({ severity }) => severity === 'error');
    const collection = read.source === undefined ? undefined : this.collections.get(read.source);
    if (errors.length > 0 || collection === undefined) return refused(invalid(errors.length > 0 ? errors : read.diagnostics));
    const { change: pipeline, parameters = {}, guards } = request;
    const unbound = unboundIn([...read.finding.map(({ stage }) => stage), ...read.steps], parameters, pipeline);
    if (unbound.length > 0) return refused(invalid(unbound));
    const done = await this.runPrepared(
      { stages: read.finding, written: read.finding, collection },
      { pipeline, parameters, guards },
      isCancelled,
    );
    if (!done.ok) return done;
    const { run, planned } = done.value;
    const maker = new ChangeMaker(read, identityNames(collection.identityPath), run.context);
    try {
      for (let i = 0, until = milliseconds() + sliceMs; i < run.rows.length; i++) {
        maker.add(run.rows[i] as JsonObject, run.positions[i]);
        if ((i & 255) !== 255 || milliseconds() < until) continue;
        await this.host.pause();
        if (isCancelled()) return refused({ kind: 'cancelled', message: 'The change was cancelled. Nothing was changed.' });
        until = milliseconds() + sliceMs;
      }
    } catch (error) {
      if (!(error instanceof ChangeProblem)) throw error;
      return refused({ kind: 'document', message: error.message });
    }
    const warnings = read.diagnostics.filter(({ severity }) => severity === 'warning');
    return answered({ maker, run, planned, collection, warnings, notes: notesOf(run.context.misfits.list(), pipeline) });
  }

  private readonly definitionOf: DefinitionOf = (collection, index) => this.collections.get(collection)?.index(index)?.definition;

  /** A page of the rows of a run that is still kept. */
  rows(runId: string, offset: number, size: number): Answer<{ documents: readonly Json[]; hasMore: boolean; rowsReturned: number }> {
    const found = this.kept.find(runId);
    if (found === undefined) {
      return refused({ kind: 'gone', message: 'The rows of this run are no longer kept. Run it again.' });
    }
    const { rows, rowsReturned } = found;
    return answered({ documents: rows.slice(offset, offset + size), hasMore: offset + size < rows.length, rowsReturned });
  }

  private finish(run: Run, planned: Planned, collection: Collection, request: QueryRequest): QueryResult {
    const runId = this.host.newId();
    const { rows, positions } = run;
    const isOwned = makesRows(planned.physical.root);
    this.kept.keep(runId, { rows, positions, collection: collection.name, rowsReturned: rows.length }, isOwned);
    const pageSize = request.pageSize ?? defaultPageSize;
    const explained = explain(planned, this.definitionOf, [], run);
    return {
      suggestions: explained.suggestions,
      rewrites: explained.rewrites,
      get plan() {
        return explained.plan;
      },
      get weighed() {
        return explained.weighed;
      },
      runId,
      documents: rows.slice(0, pageSize),
      rowsReturned: rows.length,
      hasMore: rows.length > pageSize,
      cost: run.costs,
      lines: linesOf(planned.physical, run),
      notes: notesOf(run.context.misfits.list(), request.pipeline),
      bounded: run.watch.cutShort,
    };
  }

  /** Reads and checks a pipeline; the same text is read once. */
  private prepare(request: PlanRequest): Answer<Prepared> {
    const key = `${request.throughLine ?? ''}\n${request.pipeline}`;
    let prepared = this.checked.get(key);
    if (prepared === undefined) {
      prepared = this.check(request);
      if (this.checked.size > 200) this.checked.clear();
      this.checked.set(key, prepared);
    }
    if (!prepared.ok) return prepared;
    const unbound = unboundIn(
      prepared.value.written.map(({ stage }) => stage),
      request.parameters ?? {},
      request.pipeline,
    );
    return unbound.length === 0 ? prepared : refused(invalid(unbound));
  }

  private check({ pipeline: text, throughLine }: PlanRequest): Answer<Prepared> {
    const { stages, written, diagnostics } = readPipeline(text, [...this.collections.keys()], this.views, throughLine);
    const errors = diagnostics.filter(({ severity }) => severity === 'error');
    const [first] = stages;
    const collection = first?.stage.kind === 'from' ? this.collections.get(first.stage.source) : undefined;
    if (errors.length > 0 || collection === undefined) return refused(invalid(errors.length > 0 ? errors : diagnostics));
    return answered({ stages, written, collection });
  }

  /** What a name in a pipeline stands for. */
  private readonly lookup: SourceLookup = (name) => {
    const stages = viewStages(name, this.views, 1);
    if (stages !== undefined) return { kind: 'view', stages };
    return { kind: 'collection', source: existing(this.collections.get(name)).planned() };
  };

  /** Works while nothing changes in any of the collections that a pipeline reads. */
  private reading<T>(stages: readonly PlannedStage[], work: () => Promise<T>): Promise<T> {
    const names = new Set<string>();
    const visit = (some: readonly PlannedStage[]): void => {
      for (const { stage } of some) {
        if (!('source' in stage)) continue;
        const view = viewStages(stage.source, this.views, 1);
        if (view === undefined) names.add(stage.source);
        else visit(view);
      }
    };
    visit(stages);
    // Always in the same order, so that two runs never wait for each other.
    const gates = [...names].sort().flatMap((name) => this.collections.get(name)?.gate ?? []);
    return gates.reduceRight<() => Promise<T>>((inner, gate) => () => gate.read(inner), work)();
  }

  private planPrepared(
    { stages, collection }: Prepared,
    request: PlanRequest,
    now: string,
  ): Answer<{ planned: Planned; whatIf: readonly IndexDefinition[] }> {
    try {
      const whatIf = (request.whatIf ?? [])
        .filter((wanted) => wanted.collection === undefined || wanted.collection === collection.name)
        .map(readDefinition);
      const planned = plan(narrowed(stages, collection, request.only), this.lookup, {
        parameters: request.parameters ?? {},
        now,
        whatIf,
        ignoreIndexes: request.ignoreIndexes,
        useIndex: request.useIndex,
        withoutRules: request.withoutRules,
      });
      return answered({ planned, whatIf });
    } catch (error) {
      if (error instanceof PlanProblem) {
        const { from, to } = error.expression;
        return refused(invalid([{ severity: 'error', code: 'not-a-whole-number', message: error.message, from, to, line: error.line }]));
      }
      if (error instanceof IndexProblem) return refused({ kind: 'pipeline', message: error.message, diagnostics: [] });
      throw error;
    }
  }
}

/** A pipeline on some documents alone, as if its source had no others. */
function narrowed(stages: readonly PlannedStage[], collection: Collection, only: PlanRequest['only']): readonly PlannedStage[] {
  if (only === undefined) return stages;
  const [from, ...rest] = stages;
  // 7 and "7" are one identity.
  const values = only.flatMap((identity) =>
    Number.isFinite(Number(identity)) && String(identity).trim() !== '' ? [String(identity), Number(identity)] : [identity],
  );
  const read = parseConditionText(`${collection.identityPath} in ${JSON.stringify(values)}`);
  if ('finding' in read) return stages;
  return [from, { ...from, uncounted: true, stage: { kind: 'where', condition: read.expression } }, ...rest];
}

function existing<T>(value: T | undefined): T {
  if (value === undefined) throw new Error('a plan names an index that is not built');
  return value;
}

/** The bytes that keeping a change for its undo takes, estimated from some of its documents. */
function estimatedBytes(changed: readonly ChangedDocument[]): number {
  const step = Math.max(1, Math.floor(changed.length / 200));
  const looked = changed.filter((_, i) => i % step === 0);
  const bytes = looked.reduce(
    (sum, { before, after }) => sum + JSON.stringify(before).length + (after ? JSON.stringify(after).length : 0),
    0,
  );
  return looked.length === 0 ? 0 : Math.round((bytes / looked.length) * changed.length);
}
