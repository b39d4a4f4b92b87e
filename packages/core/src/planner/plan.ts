import { compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { keyTexts } from '../indexes/definition.ts';
import { isRowCount } from '../language/stages/rowCount.ts';
import type { FromStage, OrderStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import { adviseOn, type Suggestion } from './advice.ts';
import { cheapFirst } from './cheapFirst.ts';
import { conjunctsOf, joined, type Conjunct } from './conjuncts.ts';
import { keyConditionsOf, type Constant } from './keyConditions.ts';
import { layUnnestedGroup } from './layers/groups.ts';
import type { LayContext, SourceLookup } from './layers/layer.ts';
import { layStage } from './layers/registry.ts';
import { isStage, type PlannedStage, type Rewrite, type RuleName } from './logical.ts';
import { rowForRow } from './rewrites/limitUp.ts';
import { rewrite } from './rewrites/rewrite.ts';
import type { LineSource, PhysicalPlan, PhysicalStep } from './physical.ts';
import { keysOf, reasonFor, wayName, type Weighed } from './reasons.ts';
import { Selectivity, type PlannedSource } from './source.ts';
import { imagined } from './statistics.ts';
import { fullScanWay, indexWay, type Question, type UselessIndex, type Way } from './ways.ts';

export type { PlannedStage } from './logical.ts';

export interface PlanOptions {
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
  /** Planned against though they are not built; such a plan cannot be run. */
  readonly whatIf?: readonly IndexDefinition[];
  readonly ignoreIndexes?: readonly string[];
  readonly useIndex?: string;
  /** Rewrites that are not to be made; for comparing with and without. */
  readonly withoutRules?: readonly RuleName[];
}

export interface Planned {
  readonly physical: PhysicalPlan;
  readonly weighed: readonly Weighed[];
  readonly suggestions: readonly Suggestion[];
  readonly rewrites: readonly Rewrite[];
}

/** A value of the pipeline that only shows at planning is not one that its stage can take. */
export class PlanProblem extends Error {
  readonly line: number;
  readonly expression: Expression;
  constructor(message: string, line: number, expression: Expression) {
    super(message);
    this.line = line;
    this.expression = expression;
  }
}

/**
 * Plans a pipeline: weighs the ways to its documents, and lays an operator to every stage.
 * @throws PlanProblem where offset or limit is given no whole number
 */
export function plan(written: readonly PlannedStage[], lookup: SourceLookup, options: PlanOptions): Planned {
  const { stages, done } = rewrite(written, options.withoutRules);
  const source = sourceOf(stages, lookup);
  const values = makeContext(options.parameters, options.now);
  const constant: Constant = (expression) => compileValue(expression)({}, values);
  const countOf = ({ stage, line }: PlannedStage): number => {
    if (stage.kind !== 'offset' && stage.kind !== 'limit' && stage.kind !== 'sample') return 0;
    const value = stage.count.kind === 'literal' ? stage.count.value : constant(stage.count);
    if (!isRowCount(value))
      throw new PlanProblem(
        `${stage.kind} takes a whole number of rows, 0 or more, and was given ${JSON.stringify(value) ?? 'nothing'}.`,
        line,
        stage.count,
      );
    return value;
  };

  const [from, ...rest] = stages as [PlannedStage<FromStage>, ...PlannedStage[]];
  const wheres: PlannedStage<WhereStage>[] = [];
  for (const stage of rest) {
    if (!isStage(stage, 'where')) break;
    wheres.push(stage);
  }
  const following = rest.slice(wheres.length);
  // What was moved or dropped from between leaves only its mark.
  const firstOf = following.find(({ stage }) => stage.kind !== 'mark');
  const order = isStage(firstOf, 'order') ? firstOf : undefined;

  const conjuncts = wheres.flatMap(({ stage, line }) => conjunctsOf(stage.condition, line));
  const question: Question = {
    conjuncts,
    conditions: conjuncts.flatMap((conjunct) => keyConditionsOf(conjunct, constant)),
    order: order?.stage.keys ?? [],
    demand: demandOf(order === undefined ? following : following.slice(following.indexOf(order) + 1), countOf),
  };
  const selectivity = new Selectivity(source, options.parameters);
  const { chosen, ways, useless } = weigh(source, question, selectivity, options);
  const told = (): Weighed[] =>
    tell(
      source,
      question,
      chosen,
      ways,
      useless,
      [from, ...wheres, ...(chosen.match?.ordered && order ? [order] : [])].map(({ line }) => line),
    );
  const suggestions = options.whatIf?.length ? [] : adviseOn(source, question, chosen, selectivity);
  const joins: Weighed[] = [];
  const rewrites: Rewrite[] = [...done];
  const context: LayContext = {
    constant,
    countOf,
    lookup,
    indexIsAllowed: (name) => !options.ignoreIndexes?.includes(name),
    source,
    planView: (view, line) => relined(plan(view, lookup, { ...options, whatIf: [] }).physical.root, line),
    weighed: joins,
    rewrites,
    keepsUsed: !options.withoutRules?.includes('used fields alone'),
    mayFuse: !options.withoutRules?.includes('unnest joined to group'),
  };
  const physical = layOut(from, wheres, following, order, source, question, chosen, selectivity, context);
  // Words are made when someone reads them: finding one document by its identity takes less time than telling of it.
  let weighed: readonly Weighed[] | undefined;
  return {
    physical,
    suggestions,
    rewrites,
    get weighed() {
      return (weighed ??= [...told(), ...joins]);
    },
  };
}

/** The collection that rows come from. A view that begins another pipeline has been put in its place before. */
function sourceOf([first]: readonly PlannedStage[], lookup: SourceLookup): PlannedSource {
  const named = lookup(isStage(first, 'from') ? first.stage.source : '');
  if (named.kind === 'view') throw new Error('a view stands where its stages should');
  return named.source;
}

/** The steps of a view, as they work for the line that names it. */
function relined(step: PhysicalStep, line: number): PhysicalStep {
  const inner = 'input' in step ? { input: relined(step.input, line) } : {};
  const partners = step.kind === 'hashJoin' ? { partners: relined(step.partners, line) } : {};
  return { ...step, ...inner, ...partners, lines: [line] } as PhysicalStep;
}

/** How many rows the stages that follow take at most, as long as they take row for row. */
function demandOf(following: readonly PlannedStage[], countOf: (stage: PlannedStage) => number): number | undefined {
  let skipped = 0;
  for (const planned of following) {
    if (planned.stage.kind === 'limit') return skipped + countOf(planned);
    if (planned.stage.kind === 'offset') skipped += countOf(planned);
    else if (!rowForRow.has(planned.stage.kind)) return undefined;
  }
  return undefined;
}

function weigh(source: PlannedSource, question: Question, selectivity: Selectivity, options: PlanOptions) {
  const statistics = [...source.indexes, ...(options.whatIf ?? []).map((definition) => imagined(definition, source.sample()))];
  const considered = statistics.filter(({ definition }) => !options.ignoreIndexes?.includes(definition.name));
  const looked = considered.map((index) => indexWay(source, index, question, selectivity));
  const isWay = (way: Way | UselessIndex): way is Way => 'cost' in way;
  const ways = [fullScanWay(source, question, selectivity), ...looked.filter(isWay)];
  const insisted = ways.find((way) => options.useIndex !== undefined && way.statistics?.definition.name === options.useIndex);
  const chosen = insisted ?? ways.reduce((best, way) => (way.cost < best.cost ? way : best));
  return { chosen, ways, useless: looked.filter((way): way is UselessIndex => !isWay(way)) };
}

function tell(
  source: PlannedSource,
  question: Question,
  chosen: Way,
  ways: readonly Way[],
  useless: readonly UselessIndex[],
  lines: readonly number[],
): Weighed[] {
  const told = ways.map((way): Weighed => ({
    way: wayName(way),
    collection: source.name,
    ...(way.statistics && { index: way.statistics.definition.name, keys: keysOf(way) }),
    whatIf: way.statistics !== undefined && way.statistics.built === undefined,
    chosen: way === chosen,
    reason: reasonFor(way, chosen, ways.length - 1, question.conjuncts.length),
    documentsRead: Math.round(way.documentsRead),
    indexEntriesRead: Math.round(way.indexEntriesRead),
    cost: Math.round(way.cost * 10) / 10,
    lines,
  }));
  const lost = useless.map(({ statistics, reason }): Weighed => ({
    way: 'index range scan',
    collection: source.name,
    index: statistics.definition.name,
    keys: keyTexts(statistics.definition),
    whatIf: statistics.built === undefined,
    chosen: false,
    reason,
    lines,
  }));
  // The chosen way first, then by cost; what is of no use last.
  return [...told.sort((a, b) => Number(b.chosen) - Number(a.chosen) || (a.cost ?? 0) - (b.cost ?? 0)), ...lost];
}

function layOut(
  from: PlannedStage<FromStage>,
  wheres: readonly PlannedStage<WhereStage>[],
  following: readonly PlannedStage[],
  order: PlannedStage<OrderStage> | undefined,
  source: PlannedSource,
  question: Question,
  chosen: Way,
  selectivity: Selectivity,
  context: LayContext,
): PhysicalPlan {
  const lines: LineSource[] = [];
  const served = chosen.match?.served ?? [];
  const residualOf = (line: number) =>
    joined(
      cheapFirst(
        question.conjuncts.filter((conjunct) => conjunct.line === line && !served.includes(conjunct)),
        selectivity,
      ),
    );
  const passed = (upTo: number) => question.conjuncts.filter(({ line }) => wheres.slice(0, upTo + 1).some((where) => where.line === line));
  const rowsAfter = (upTo: number) =>
    Math.min(
      chosen.kind === 'index' ? chosen.indexEntriesRead || chosen.rows : Infinity,
      source.store.count * selectivity.of(passed(upTo)),
    );
  const estimated = (upTo: number) => (upTo === wheres.length - 1 ? chosen.rows : rowsAfter(upTo));

  // The first condition is tested while reading; the others are steps of their own, so that each line has its counts.
  const [first, ...others] = wheres;
  const orderIsServed = chosen.match?.ordered !== undefined;
  const demand = others.length === 0 && (question.order.length === 0 || orderIsServed) ? question.demand : undefined;
  const orderLine = orderIsServed && order ? [order.line] : [];
  let step = access(source, chosen, {
    lines: [from.line, ...(first ? [first.line] : []), ...(chosen.match ? servedLines(chosen, others) : []), ...orderLine],
    estimatedRows: Math.min(first ? estimated(0) : chosen.rows, demand ?? Infinity),
    condition: first && residualOf(first.line),
    demand,
  });
  lines.push({ line: from.line, step, counts: 'read' });
  if (first && !first.uncounted) lines.push({ line: first.line, step, counts: 'out' });
  others.forEach((where, i) => {
    const condition = residualOf(where.line);
    if (condition !== undefined) step = { kind: 'filter', lines: [where.line], estimatedRows: estimated(i + 1), condition, input: step };
    if (!where.uncounted) lines.push({ line: where.line, step, counts: 'out' });
  });
  return { root: layRest(step, following, orderIsServed ? order : undefined, context, lines), lines: lastOfEach(lines) };
}

/** Lines of later conditions that the index serves whole, so that no step of their own is left for them. */
function servedLines(chosen: Way, others: readonly PlannedStage<WhereStage>[]): number[] {
  return others.filter(({ line }) => chosen.match?.served.some((conjunct: Conjunct) => conjunct.line === line)).map(({ line }) => line);
}

interface AccessParts {
  readonly lines: readonly number[];
  readonly estimatedRows: number;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
}

function access(source: PlannedSource, { statistics, match }: Way, parts: AccessParts): PhysicalStep {
  if (statistics === undefined || match === undefined) return { kind: 'fullScan', collection: source.name, ...parts };
  return {
    kind: 'indexScan',
    collection: source.name,
    index: statistics.definition.name,
    ranges: match.ranges,
    lookup: match.lookup,
    ordered: match.ordered,
    ...parts,
  };
}

function layRest(
  access: PhysicalStep,
  following: readonly PlannedStage[],
  served: PlannedStage<OrderStage> | undefined,
  context: LayContext,
  lines: LineSource[],
): PhysicalStep {
  let step = access;
  for (let i = 0; i < following.length; i++) {
    const planned = following[i];
    const after = following.slice(i + 1);
    const { line, uncounted } = planned;
    if (isStage(planned, 'order')) {
      if (planned !== served) {
        step = layOrder(planned, step, after, context);
        lines.push({ line, step, counts: 'in' });
      } else lines.push({ line, step, counts: 'out' });
      continue;
    }
    const fused = layUnnestedGroup(following.slice(i), step, context);
    if (fused !== undefined) {
      step = fused.step;
      const done = following.slice(i, i + fused.count);
      for (const one of done.slice(0, -1)) if (one.stage.kind !== 'mark') lines.push({ line: one.line, step, counts: 'inner' });
      lines.push({ line: done[done.length - 1].line, step, counts: 'out' });
      i += fused.count - 1;
      continue;
    }
    step = layStage(planned, step, context, after);
    if (!uncounted) lines.push({ line, step, counts: 'out' });
  }
  return step;
}

/** A sort; of the first rows alone where no more are wanted. */
function layOrder(
  { stage, line }: PlannedStage<OrderStage>,
  input: PhysicalStep,
  after: readonly PlannedStage[],
  { countOf }: LayContext,
): PhysicalStep {
  const demand = demandOf(after, countOf);
  const common = { keys: stage.keys, input };
  if (demand === undefined) return { kind: 'sort', lines: [line], estimatedRows: input.estimatedRows, ...common };
  const limitLine = after.find((later) => later.stage.kind === 'limit')?.line;
  return {
    kind: 'topNSort',
    lines: [line, ...(limitLine === undefined ? [] : [limitLine])],
    estimatedRows: Math.min(input.estimatedRows, demand),
    count: demand,
    ...common,
  };
}

/** A view's stages all work for the line that names it: what comes out of the last of them is what counts. */
function lastOfEach(lines: readonly LineSource[]): LineSource[] {
  const byLine = new Map<number, LineSource>();
  for (const one of lines) {
    byLine.delete(one.line);
    byLine.set(one.line, one);
  }
  return [...byLine.values()].sort((a, b) => a.line - b.line);
}
