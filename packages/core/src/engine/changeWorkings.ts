import { milliseconds } from '../values/clock.ts';
import type { Run } from '../execution/run.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import type { Planned } from '../planner/plan.ts';
import type { JsonObject } from '../values/json.ts';
import { conditionParametersIn, withConditions } from '../language/conditionParameters.ts';
import { ChangeMaker, ChangeProblem, readChange, type ChangedDocument, type ReadChange } from './changes.ts';
import type { Collection } from './collection.ts';
import type { Pause } from './pause.ts';
import { describeChange, type ChangeFigures } from './describePlan.ts';
import type { DefinitionOf } from './stepWords.ts';
import { identityNames } from '../language/identityNames.ts';
import { notesOf } from './notes.ts';
import type { Prepared } from './prepared.ts';
import { invalid, unboundAt, unboundIn } from './readPipeline.ts';
import {
  answered,
  defaultPageSize,
  refused,
  sliceMs,
  type Answer,
  type ChangePreview,
  type ChangeRequest,
  type Explained,
  type PlanRequest,
  type QueryRequest,
} from './requests.ts';
import { explain, linesOf } from './telling.ts';

/** A change worked out and not yet made. */
export interface ComputedChange {
  readonly collection: Collection;
  readonly matched: number;
  readonly changed: readonly ChangedDocument[];
}

/** Finds the documents that a change touches. */
type RunPrepared = (
  prepared: Prepared,
  request: QueryRequest,
  isCancelled: () => boolean,
) => Promise<Answer<{ readonly run: Run; readonly planned: Planned }>>;

/** Plans how they would be found. */
type PlanPrepared = (
  prepared: Prepared,
  request: PlanRequest,
) => Answer<{ readonly planned: Planned; readonly whatIf: readonly IndexDefinition[] }>;

/** Changes of many documents, worked out in memory. Nothing is written here. */
export class ChangeWorkings {
  private readonly collections: ReadonlyMap<string, Collection>;
  private readonly pause: Pause;
  private readonly runPrepared: RunPrepared;
  private readonly planPrepared: PlanPrepared;
  private readonly definitionOf: DefinitionOf;

  constructor(
    collections: ReadonlyMap<string, Collection>,
    pause: Pause,
    runPrepared: RunPrepared,
    planPrepared: PlanPrepared,
    definitionOf: DefinitionOf,
  ) {
    this.collections = collections;
    this.pause = pause;
    this.runPrepared = runPrepared;
    this.planPrepared = planPrepared;
    this.definitionOf = definitionOf;
  }

  /** What a change would do, from a run that writes nothing. */
  async preview(request: ChangeRequest & { offset?: number; size?: number }, isCancelled: () => boolean): Promise<Answer<ChangePreview>> {
    const made = await this.makeChange(request, isCancelled);
    if (!made.ok) return made;
    const { read, maker, makingMs, run, planned, warnings, notes } = made.value;
    const { offset = 0, size = defaultPageSize } = request;
    const figures = { changed: maker.changed.length, timeMs: makingMs };
    const { plan, weighed, suggestions, rewrites } = withChange(
      explain({ planned, reading: read.reading, definitions: this.definitionOf, run }),
      read,
      figures,
    );
    return answered({
      matched: maker.matched,
      changed: maker.changed.length,
      repeats: maker.repeats,
      sample: maker.changed.slice(offset, offset + size).map(({ identity, before, after }) => ({ identity, before, after: after ?? null })),
      hasMore: maker.changed.length > offset + size,
      bytes: estimatedBytes(maker.changed),
      warnings,
      notes,
      lines: linesOf(planned.physical, read.reading, run),
      cost: run.costs,
      plan,
      weighed,
      suggestions,
      rewrites,
    });
  }

  /** The documents that a change touches, each with what it becomes. Nothing is written. */
  async compute(request: ChangeRequest, isCancelled: () => boolean): Promise<Answer<ComputedChange>> {
    const made = await this.makeChange(request, isCancelled);
    if (!made.ok) return made;
    const { maker, collection } = made.value;
    return answered({ collection, matched: maker.matched, changed: maker.changed });
  }

  /** How the documents of a change would be found, and what would be done with them; nothing is run. */
  plan({ pipeline: change, parameters, ...options }: PlanRequest): Answer<Explained> {
    const known = this.read({ change, parameters });
    if (!known.ok) return known;
    const { read, prepared } = known.value;
    const planned = this.planPrepared(prepared, { ...options, pipeline: change, parameters });
    if (!planned.ok) return planned;
    const explained = explain({ ...planned.value, reading: read.reading, definitions: this.definitionOf });
    return answered(withChange(explained, read, undefined));
  }

  /** Reads and checks a change. */
  private read({ change, parameters = {} }: ChangeRequest): Answer<{ readonly read: ReadChange; readonly prepared: Prepared }> {
    const read = readChange(change, [...this.collections.keys()], (name) => {
      const known = this.collections.get(name);
      return known && identityNames(known.identityPath);
    });
    const errors = read.diagnostics.filter(({ severity }) => severity === 'error');
    const collection = read.source === undefined ? undefined : this.collections.get(read.source);
    if (errors.length > 0 || collection === undefined) return refused(invalid(errors.length > 0 ? errors : read.diagnostics));
    const unbound = unboundIn(
      [...read.finding, ...read.steps].map(({ stage }) => stage),
      parameters,
      read.reading.asked,
    );
    // Of a question a condition that is not given holds; a change would so be made of everything.
    const notGiven = read.finding.flatMap(({ stage }) => conditionParametersIn(stage)).find(({ name }) => parameters[name] === undefined);
    if (notGiven !== undefined) unbound.push(unboundAt(notGiven, read.reading.asked));
    if (unbound.length > 0) return refused(invalid(unbound));
    const finding = read.finding.map((one) => ({ ...one, stage: withConditions(one.stage, parameters) }));
    return answered({ read, prepared: { stages: finding, collection, reading: read.reading } });
  }

  private async makeChange(request: ChangeRequest, isCancelled: () => boolean) {
    const known = this.read(request);
    if (!known.ok) return known;
    const { read, prepared } = known.value;
    const { collection } = prepared;
    const { change: pipeline, parameters = {}, guards } = request;
    const done = await this.runPrepared(prepared, { pipeline, parameters, guards }, isCancelled);
    if (!done.ok) return done;
    const { run, planned } = done.value;
    const started = milliseconds();
    const maker = new ChangeMaker(read, identityNames(collection.identityPath), run.context);
    try {
      for (let i = 0, until = milliseconds() + sliceMs; i < run.rows.length; i++) {
        maker.add(run.rows[i] as JsonObject, run.positions[i]!);
        if ((i & 255) !== 255 || milliseconds() < until) continue;
        await this.pause();
        if (isCancelled()) return refused({ kind: 'cancelled', message: 'The change was cancelled. Nothing was changed.' });
        until = milliseconds() + sliceMs;
      }
    } catch (error) {
      if (!(error instanceof ChangeProblem)) throw error;
      return refused({ kind: 'document', message: error.message });
    }
    const warnings = read.diagnostics.filter(({ severity }) => severity === 'warning');
    return answered({
      read,
      maker,
      makingMs: milliseconds() - started,
      run,
      planned,
      collection,
      warnings,
      notes: notesOf(run.context.misfits.list(), read.reading),
    });
  }
}

/** What finding the documents tells, with the step that changes them. */
function withChange(
  { plan, weighed, suggestions, rewrites }: Explained,
  { steps, reading }: ReadChange,
  figures: ChangeFigures | undefined,
): Explained {
  return { plan: describeChange(steps, (stages) => reading.linesOf(stages), plan, figures), weighed, suggestions, rewrites };
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
