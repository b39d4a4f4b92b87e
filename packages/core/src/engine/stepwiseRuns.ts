import { makeContext, type Context } from '../expressions/context.ts';
import type { PlannedStage } from '../planner/logical.ts';
import type { Json } from '../values/json.ts';
import type { Collection } from './collection.ts';
import { someOf } from './following/runStages.ts';
import type { Prepared } from './prepared.ts';
import { answered, type Answer, type QueryRequest } from './requests.ts';
import type { Runner } from './runner.ts';
import { TimeTogether } from './timeTogether.ts';

/** Rows, and where each stands in what they were made of. */
export interface Ran {
  readonly rows: readonly Json[];
  readonly positions: readonly number[];
}

/**
 * Runs a pipeline part by part, over its documents, and over the rows of a group for what follows that: so these stand where they stand
 * in the list of them, whatever a plan of the whole does with conditions that come after. Views, those whose rows are kept too, are read
 * through to their documents. The guard of time is for all runs together.
 */
export class StepwiseRuns {
  /** Where rows come from in the end. */
  readonly collection: Collection;
  readonly reading: Prepared['reading'];
  /** What follows the source, with views in their places. */
  readonly stages: readonly PlannedStage[];
  readonly from: PlannedStage;
  readonly context: Context;
  private readonly request: QueryRequest;
  private readonly runner: Runner;
  private readonly collections: Map<string, Collection>;
  private readonly prepared: Prepared;
  private readonly time: TimeTogether;
  private readonly isCancelled: () => boolean;

  private constructor(request: QueryRequest, runner: Runner, collections: Map<string, Collection>, prepared: Prepared, { work, isCancelled }: Work) {
    const [from, ...stages] = runner.preparer.expanded(prepared);
    this.from = from!;
    this.stages = stages;
    this.collection = prepared.collection;
    this.reading = prepared.reading;
    this.context = makeContext(request.parameters ?? {}, runner.now());
    this.time = new TimeTogether(work, request.guards);
    this.request = request;
    this.runner = runner;
    this.collections = collections;
    this.prepared = prepared;
    this.isCancelled = isCancelled;
  } // prettier-ignore

  static of(asked: QueryRequest, runner: Runner, work: Work): Answer<StepwiseRuns> {
    const { pipeline, parameters, surface, throughLine, only, guards } = asked;
    // Ways and indexes that are insisted on are those of the whole; they change no answer.
    const request: QueryRequest = {
      pipeline,
      ...(parameters && { parameters }),
      ...(surface && { surface }),
      ...(throughLine && { throughLine }),
      ...(only && { only }),
      ...(guards && { guards }),
    };
    const collections = new Map<string, Collection>();
    const through = runner.through(collections);
    const prepared = through.preparer.prepare(request);
    return prepared.ok ? answered(new StepwiseRuns(request, through, collections, prepared.value, work)) : prepared;
  }

  /** @param stages those that follow the source */
  async run(source: string, stages: readonly PlannedStage[]): Promise<Answer<Ran>> {
    const all = [{ ...this.from, stage: { ...this.from.stage, source } }, ...stages] as Prepared['stages'];
    const { only, ...asked } = this.request;
    const request = { ...asked, guards: this.time.left, ...(only !== undefined && source === this.collection.name && { only }) };
    const done = this.time.told(await this.runner.prepared({ ...this.prepared, stages: all }, request, this.isCancelled));
    return done.ok ? answered(done.value.run) : done;
  }

  /** Makes a source of rows. @returns its name */
  keep(rows: readonly Json[]): string {
    const name = `#rows ${this.collections.size}`;
    this.collections.set(name, someOf(name, rows));
    return name;
  }
}

export interface Work {
  /** As it is called in what users are told, such as `Tracing`. */
  readonly work: string;
  readonly isCancelled: () => boolean;
}
