import { compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import { isRowCount } from '../language/stages/rowCount.ts';
import type { FromStage, OrderStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import { conjunctsOf } from './conjuncts.ts';
import { demandOf } from './demand.ts';
import type { Naming, SourceLookup } from './layers/layer.ts';
import { isStage, type PlannedStage } from './logical.ts';
import { readToTheEnd } from './paths/covering.ts';
import { disjunctionsOf } from './paths/disjunctions.ts';
import { keyConditionsOf, type Constant } from './paths/keyConditions.ts';
import type { AccessQuestion } from './paths/path.ts';
import { PlanProblem, type PlanOptions } from './planRequest.ts';
import { Selectivity, type PlannedSource } from './source.ts';

/** Stages taken apart for planning: what is asked of the source, and what follows. */
export interface AskedSource {
  readonly source: PlannedSource;
  readonly from: PlannedStage<FromStage>;
  /** The conditions that begin the pipeline. */
  readonly wheres: readonly PlannedStage<WhereStage>[];
  readonly following: readonly PlannedStage[];
  /** The order that follows them at once, if one does. */
  readonly order: PlannedStage<OrderStage> | undefined;
  readonly question: AccessQuestion;
  readonly selectivity: Selectivity;
  /** The value of an expression that is the same for all rows. */
  readonly constant: Constant;
  /** @throws PlanProblem where offset, limit or sample is given no whole number; 0 for other stages */
  readonly countOf: (stage: PlannedStage) => number;
  /** So many documents will be taken, where the stages after them do not say for sure. */
  readonly about: number | undefined;
}

/** Takes stages apart for planning. */
export function askedSource(stages: readonly PlannedStage[], lookup: SourceLookup, options: PlanOptions, about?: number): AskedSource {
  const source = sourceOf(stages, lookup);
  const values = makeContext(options.parameters, options.now);
  // A literal needs no function made for it.
  const constant: Constant = (expression) => (expression.kind === 'literal' ? expression.value : compileValue(expression)({}, values));
  const countOf = rowCounts(constant);
  const [from, ...rest] = stages as [PlannedStage<FromStage>, ...PlannedStage[]];
  const wheres = leadingWheres(rest);
  const following = rest.slice(wheres.length);
  // What was moved or dropped from between leaves only its mark.
  const firstOf = following.find(({ stage }) => stage.kind !== 'mark');
  const order = isStage(firstOf, 'order') ? firstOf : undefined;
  const conjuncts = wheres.flatMap(({ stage, id }) => conjunctsOf(stage.condition, id));
  const conditions = conjuncts.flatMap((conjunct) => keyConditionsOf(conjunct, constant));
  const after = order === undefined ? following : following.slice(following.indexOf(order) + 1);
  const question: AccessQuestion = {
    conjuncts,
    conditions,
    alternatives: disjunctionsOf(conjuncts, conditions, constant),
    order: order?.stage.keys ?? [],
    demand: about ?? demandOf(after, countOf),
    skip: about === undefined && !options.withoutRules?.includes('offset counted') ? skippedBy(after, countOf) : 0,
    read: options.withoutRules?.includes('index-only')
      ? undefined
      : readToTheEnd(
          conjuncts.map(({ expression }) => expression),
          following.map(({ stage }) => stage),
        ),
  };
  const selectivity = new Selectivity(source, options.parameters);
  return { source, from, wheres, following, order, question, selectivity, constant, countOf, about };
}

/** How many rows the first stage passes over, if it is an offset. */
function skippedBy(after: readonly PlannedStage[], countOf: AskedSource['countOf']): number {
  const first = after.find(({ stage }) => stage.kind !== 'mark');
  return first?.stage.kind === 'offset' ? countOf(first) : 0;
}

function leadingWheres(rest: readonly PlannedStage[]): PlannedStage<WhereStage>[] {
  const wheres: PlannedStage<WhereStage>[] = [];
  for (const stage of rest) {
    if (!isStage(stage, 'where')) break;
    wheres.push(stage);
  }
  return wheres;
}

/** How many rows a stage counts off. */
function rowCounts(constant: Constant): AskedSource['countOf'] {
  return ({ stage, id }) => {
    if (stage.kind !== 'offset' && stage.kind !== 'limit' && stage.kind !== 'sample' && stage.kind !== 'best') return 0;
    const value = constant(stage.count);
    if (!isRowCount(value)) throw notACount(stage.kind, value, id, stage.count);
    return value;
  };
}

function notACount(kind: string, value: unknown, id: PlannedStage['id'], count: Expression): PlanProblem {
  const given = JSON.stringify(value) ?? 'nothing';
  return new PlanProblem(`${kind} takes a whole number of rows, 0 or more, and was given ${given}.`, id, count);
}

/** The collection that rows come from. Views have been put in their places before. */
function sourceOf([first]: readonly PlannedStage[], lookup: SourceLookup): PlannedSource {
  if (!isStage(first, 'from')) throw new Error('a pipeline that begins with no source reached the planner');
  return collectionAt(lookup, first.stage.source, { stage: first.id, source: first.stage.sourceId });
}

/** What is known of a collection that a stage names. */
export function collectionAt(lookup: SourceLookup, name: string, at: Naming): PlannedSource {
  const named = lookup(name, at);
  if (named.kind === 'view') throw new Error('a view stands where its stages should');
  return named.source;
}
