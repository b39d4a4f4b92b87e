import { LRUCache } from 'lru-cache';
import type { Planned } from '../planner/planned.ts';
import { lookupTemplate, type LookupTemplate } from '../planner/lookupTemplate.ts';
import type { Json } from '../values/json.ts';
import type { Prepared } from './prepared.ts';
import type { PlanRequest } from './requests.ts';
import { vectorParameters } from './vectorParameters.ts';

/** So many plans are kept of one pipeline, for what it was asked with last. */
const keptOfEach = 16;
/** Lists that are longer are not held against each other: to plan anew takes no longer. */
const longestList = 20;

interface Kept {
  /** What the plan rests on: documents and indexes as they were. */
  readonly state: string;
  readonly planned: Planned;
}

/**
 * Plans of pipelines that were asked before, as long as no document and no index of what they read has changed. What asks for one
 * document by its key is planned once for all values of one type.
 */
export class KeptPlans {
  private readonly kept = new WeakMap<Prepared, LRUCache<string, Kept>>();
  private readonly vectors = new WeakMap<Prepared, ReadonlySet<string>>();
  private readonly templates = new WeakMap<Prepared, LRUCache<string, { readonly state: string; readonly template: LookupTemplate }>>();

  /**
   * @param state tells documents and indexes as they are
   * @param isUnique whether no two documents stand under one key of an index
   */
  planOf(
    prepared: Prepared,
    request: PlanRequest,
    { state, isUnique, plan }: { state: string; isUnique: (collection: string, index: string) => boolean; plan: () => Planned },
  ): Planned {
    if (request.whatIf !== undefined || request.only !== undefined || request.ifKept !== undefined) return plan();
    const { parameters = {} } = request;
    const templates = of(this.templates, prepared);
    const types = typesOf(request);
    const near = templates.get(types);
    const rebound = near?.state === state ? near.template(parameters, plan) : undefined;
    // Kept as a template is enough: there are as many values as documents.
    if (rebound !== undefined) return rebound;
    const key = keyOf(request, this.vectorsOf(prepared));
    if (key === undefined) return plan();
    const plans = of(this.kept, prepared);
    const known = plans.get(key);
    if (known?.state === state) return known.planned;
    const planned = plan();
    plans.set(key, { state, planned });
    const template = lookupTemplate(planned, prepared.stages, parameters, isUnique);
    if (template !== undefined) templates.set(types, { state, template });
    return planned;
  }

  private vectorsOf(prepared: Prepared): ReadonlySet<string> {
    let vectors = this.vectors.get(prepared);
    if (vectors === undefined) this.vectors.set(prepared, (vectors = vectorParameters(prepared)));
    return vectors;
  }
}

function of<T extends object>(kept: WeakMap<Prepared, LRUCache<string, T>>, prepared: Prepared): LRUCache<string, T> {
  let found = kept.get(prepared);
  if (found === undefined) kept.set(prepared, (found = new LRUCache<string, T>({ max: keptOfEach })));
  return found;
}

/**
 * All that a plan goes by beside the pipeline; undefined where that is not worth comparing.
 * @param vectors parameters of which it is enough to know that they are lists
 */
function keyOf(
  { parameters = {}, useIndex, ignoreIndexes, ignoreViews, ways, withoutRules }: PlanRequest,
  vectors: ReadonlySet<string>,
): string | undefined {
  const values: unknown[] = [];
  for (const [name, value] of Object.entries(parameters)) {
    if (vectors.has(name) && Array.isArray(value)) values.push(name);
    else if (isLong(value)) return undefined;
    else values.push([name, value]);
  }
  return JSON.stringify([values, useIndex, ignoreIndexes, ignoreViews, ways, withoutRules]);
}

function isLong(value: Json): boolean {
  return typeof value === 'object' && value !== null && (Array.isArray(value) ? value.length : Object.keys(value).length) > longestList;
}

/** The same with the types of parameters alone. */
function typesOf({ parameters = {}, useIndex, ignoreIndexes, ignoreViews, ways, withoutRules }: PlanRequest): string {
  let types = '';
  for (const name in parameters) types += `${name}:${typeof parameters[name]} `;
  return useIndex === undefined &&
    ignoreIndexes === undefined &&
    ignoreViews === undefined &&
    ways === undefined &&
    withoutRules === undefined
    ? types
    : types + JSON.stringify([useIndex, ignoreIndexes, ignoreViews, ways, withoutRules]);
}
