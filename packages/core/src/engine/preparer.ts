import { LRUCache } from 'lru-cache';
import { IndexProblem, type IndexDefinition } from '../indexes/definition.ts';
import { readIndex } from '../indexes/kinds.ts';
import { collectionsRead, namedSources, type View, type Views } from '../language/sources.ts';
import { WayRefused } from '../planner/insisting.ts';
import type { SourceLookup } from '../planner/layers/layer.ts';
import { plan, PlanProblem, type Planned, type PlannedStage, type PlanOptions } from '../planner/plan.ts';
import { viewsExpanded } from '../planner/rewrites/viewsExpanded.ts';
import { answeredByView } from '../planner/views/answeredByView.ts';
import { identityIndexName, type Collection } from './collection.ts';
import { conditionParametersOf, withConditions } from '../language/conditionParameters.ts';
import { asksOf, stagesAsked } from './asksOf.ts';
import { existing } from './existing.ts';
import { KeptPlans } from './keptPlans.ts';
import { asKept, imagined, viewOf, type AsKept } from './ifKept.ts';
import { KeptViews, type MaterializedView } from './keptViews.ts';
import type { MadePlan, Prepared } from './prepared.ts';
import type { Reading } from './reading.ts';
import { invalid, readPipeline, unboundIn } from './readPipeline.ts';
import { isOpen, listed, onlyThese, unknownIndex } from './planAsks.ts';
import { answered, refused, type Answer, type PlanRequest } from './requests.ts';
import { heldStill } from './heldStill.ts';
import { SourcesRead } from './sourcesRead.ts';

/** So many pipelines are kept as read: those that were asked last. */
const keptAsRead = 200;

/** Makes texts into pipelines that can be planned, and plans them, on the collections and views that there are. */
export class Preparer {
  readonly collections: ReadonlyMap<string, Collection>;
  private readonly checked = new LRUCache<string, Answer<Prepared>>({ max: keptAsRead });
  private readonly plans = new KeptPlans();
  private views: Views = new Map();
  private viewsGoByTime = false;
  private sources = new SourcesRead(this.views);
  readonly keptViews: KeptViews;

  constructor(collections: ReadonlyMap<string, Collection>) {
    this.collections = collections;
    this.keptViews = new KeptViews(collections);
  }

  setViews(views: Views): void {
    this.views = views;
    this.viewsGoByTime = [...views.values()].some(({ pipeline }) => pipeline.includes('now'));
    this.keptViews.forget();
    this.forget();
  }

  /** To be called when collections come or go. */
  forget(): void {
    this.checked.clear();
    this.sources = new SourcesRead(this.views);
  }

  setKeptViews(views: readonly MaterializedView[]): void {
    this.keptViews.set(views);
  }

  /** The stages of a pipeline as they would be kept, and where they stand; undefined where it cannot be read. */
  asKept(view: View): AsKept | undefined {
    return asKept(imagined, view, this.views, [...this.collections.keys(), ...this.keptViews.names]);
  }

  /** The stages of a materialized view, with the views that it reads through in their places. */
  stagesOfKept(view: string): readonly PlannedStage[] | undefined {
    return this.keptViews.stagesOfKept(view, this.views);
  }

  /** The materialized views whose rows a pipeline may be answered with, so that they should be in memory. */
  keptViewsFor(pipeline: string): string[] {
    return this.keptViews.wantedFor(collectionsRead(pipeline, this.views), this.views);
  }

  /** The stages of a pipeline with the views that it reads in their places. */
  expanded({ stages, reading }: Prepared): readonly PlannedStage[] {
    return viewsExpanded(stages, this.lookupIn(reading));
  }

  /** One to whom views whose rows are kept are read through to the documents that they are made of. */
  through(collections = new Map<string, Collection>()): Preparer {
    const { keptViews } = this;
    for (const [name, collection] of this.collections) if (!keptViews.has(name)) collections.set(name, collection);
    const through = new Preparer(collections);
    through.setViews(new Map([...this.views, ...keptViews.texts]));
    return through;
  }

  isView(name: string): boolean {
    return this.views.has(name);
  }

  /** Reads and checks a pipeline; the same text is read once. */
  prepare(request: PlanRequest): Answer<Prepared> {
    const key = `${request.surface ?? ''} ${request.throughLine ?? ''} ${request.throughStage ?? ''}\n${request.pipeline}`;
    let prepared = this.checked.get(key);
    if (prepared === undefined) {
      prepared = this.check(request);
      this.checked.set(key, prepared);
    }
    if (!prepared.ok) return prepared;
    const { parameters = {} } = request;
    const { values, conditions } = asksOf(prepared.value);
    if (conditions.length === 0 && values.every((name) => Object.hasOwn(parameters, name) && parameters[name] !== undefined))
      return prepared;
    const unbound = unboundIn(stagesAsked(prepared.value), parameters, prepared.value.reading.asked);
    return unbound.length === 0 ? this.withConditions(key, prepared.value, parameters) : refused(invalid(unbound));
  }

  /** With the conditions that were given in the places of their parameters: a pipeline of its own for each. */
  private withConditions(key: string, prepared: Prepared, parameters: NonNullable<PlanRequest['parameters']>): Answer<Prepared> {
    const names = conditionParametersOf(prepared.stages.map(({ stage }) => stage));
    if (names.length === 0) return answered(prepared);
    const own = `${key}\n${JSON.stringify(names.map((name) => parameters[name] ?? null))}`;
    let known = this.checked.get(own);
    if (known === undefined) {
      const stages = prepared.stages.map((one) => ({ ...one, stage: withConditions(one.stage, parameters) }));
      this.checked.set(own, (known = answered({ ...prepared, stages })));
    }
    return known;
  }

  private check(request: PlanRequest): Answer<Prepared> {
    const { stages, diagnostics, reading } = readPipeline(request.pipeline, [...this.collections.keys()], this.views, request);
    const errors = diagnostics.filter(({ severity }) => severity === 'error');
    // What is wrong with a view is told before anyone follows it.
    if (errors.length > 0) return refused(invalid(errors));
    const [first] = stages;
    const collection = first?.stage.kind === 'from' ? this.collections.get(this.collectionBehind(first.stage.source, reading)) : undefined;
    if (collection === undefined) return refused(invalid(diagnostics));
    return answered({ stages, collection, reading });
  }

  /** The collection that rows come from in the end, through views that begin one another. */
  private collectionBehind(name: string, reading?: Reading): string {
    const [begin] = reading?.ownSource(name)?.stages ?? [];
    if (begin?.stage?.kind === 'from') return this.collectionBehind(begin.stage.source, reading);
    const view = this.views.get(name);
    const [first] = view === undefined ? [] : namedSources(view.pipeline, view.surface);
    return first === undefined ? name : this.collectionBehind(first);
  }

  /** What a name in a pipeline stands for. */
  private readonly lookupIn =
    (reading: Reading): SourceLookup =>
    (name, named) => {
      const stages = reading.stagesOf(name, named);
      if (stages !== undefined) return { kind: 'view', stages };
      return { kind: 'collection', source: existing(this.collections.get(name)).planned() };
    };

  /** The same where a view's rows are read in the place of what the question begins with. */
  private uponView(lookup: SourceLookup, view: string, ifKept?: Collection): SourceLookup {
    const rows = view === ifKept?.name ? ifKept : this.collections.get(view);
    return (name, named) => (name === view ? { kind: 'collection', source: existing(rows).planned() } : lookup(name, named));
  }

  /** The collections that a pipeline reads, through views. */
  sourcesOf({ stages, reading }: Pick<Prepared, 'stages' | 'reading'>): readonly string[] {
    return this.sources.of(stages, reading);
  }

  /** Works while nothing changes in any of the collections that a pipeline reads. */
  reading<T>(prepared: Pick<Prepared, 'stages' | 'reading'>, work: () => Promise<T>): Promise<T> {
    const names = [...this.sourcesOf(prepared), ...this.keptViews.usable];
    return heldStill(names.flatMap((name) => this.collections.get(name) ?? []), work); // prettier-ignore
  }

  /** Whether a plan may depend on when it is made. */
  private goesByTime({ pipeline }: PlanRequest): boolean {
    return this.viewsGoByTime || pipeline.includes('now');
  }

  /** What there is of the documents and indexes that stages read: another text once anything has changed. */
  private stateOf({ stages, reading }: Prepared): string {
    let state = '';
    for (const name of this.sources.of(stages, reading)) {
      const collection = this.collections.get(name);
      state += `${name} ${collection?.store.version} ${collection?.indexVersion} `;
    }
    return state;
  }

  private readonly isUnique = (name: string, index: string): boolean => {
    const built = this.collections.get(name)?.index(index);
    if (built !== undefined && index === identityIndexName) return this.collections.get(name)?.storedVersion === undefined;
    return built !== undefined && 'unique' in built.definition && built.definition.unique === true;
  };

  private planAnew(
    { stages, collection, reading }: Prepared,
    request: PlanRequest,
    { usesViews, ...made }: { readonly now: string; readonly whatIf: readonly IndexDefinition[]; readonly usesViews: boolean },
  ): Planned {
    const { ifKept } = request;
    const lookup = this.lookupIn(reading);
    const options: PlanOptions = {
      ...made,
      only: onlyThese(collection, request.only),
      parameters: request.parameters ?? {},
      ignoreIndexes: request.ignoreIndexes,
      useIndex: listed(request.useIndex),
      ways: listed(request.ways),
      withoutRules: request.withoutRules,
    };
    const views = usesViews ? this.keptViews.list(this.views, request.ignoreViews ?? []) : [];
    if (ifKept !== undefined) views.push(viewOf(ifKept));
    const planned = plan(stages, lookup, options);
    if (views.length === 0) return planned;
    return answeredByView(viewsExpanded(stages, lookup), views, planned, (upon, view) =>
      plan(upon, this.uponView(lookup, view.name, ifKept?.rows), options),
    );
  }

  /** @param mayUseViews whether materialized views may answer: not where it matters which documents rows come from */
  plan(prepared: Prepared, request: PlanRequest, now: string, mayUseViews = false): Answer<MadePlan> {
    const { collection, reading } = prepared;
    const usesViews = mayUseViews && isOpen(request);
    try {
      const whatIf = (request.whatIf ?? [])
        .filter((wanted) => wanted.collection === undefined || wanted.collection === collection.name)
        .map(readIndex);
      const unknownView = request.ignoreViews?.find((name) => !this.keptViews.has(name));
      if (unknownView !== undefined) return refused({ kind: 'not-found', message: `There is no materialized view ${unknownView}.` });
      const unknown = unknownIndex(request, () => this.sourcesOf(prepared), this.collections);
      if (unknown !== undefined) return refused({ kind: 'not-found', message: unknown });
      const anew = (): Planned => this.planAnew(prepared, request, { now, whatIf, usesViews });
      if (this.goesByTime(request)) return answered({ planned: anew(), whatIf });
      const known = { state: this.stateOf(prepared) + (usesViews ? this.keptViews.state : ''), isUnique: this.isUnique, plan: anew };
      return answered({ planned: this.plans.planOf(prepared, request, known), whatIf });
    } catch (error) {
      if (error instanceof PlanProblem) {
        const own = reading.placeOf(error.expression);
        const { from, to, line } = reading.askedPlaceOf(error.expression);
        const message = own.view === undefined ? error.message : `In the view ${own.view}, line ${own.line}: ${error.message}`;
        return refused(invalid([{ severity: 'error', code: 'not-a-whole-number', message, from, to, line }]));
      }
      if (error instanceof WayRefused) return refused({ kind: 'way', message: error.message });
      if (error instanceof IndexProblem) return refused({ kind: 'pipeline', message: error.message, diagnostics: [] });
      throw error;
    }
  }
}
