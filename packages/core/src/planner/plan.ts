import { compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { keyTexts } from '../indexes/definition.ts';
import { isRowCount } from '../language/stages/rowCount.ts';
import type { FromStage, GroupAllStage, GroupStage, OrderStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import { adviseOn, type Suggestion } from './advice.ts';
import { alternativesOf } from './alternatives.ts';
import { cheapFirst } from './cheapFirst.ts';
import { conjunctsOf, joined } from './conjuncts.ts';
import { readToTheEnd } from './covering.ts';
import { answeredGroup, type AnsweredGroup } from './indexAggregates.ts';
import { intersectionWays, unionWays } from './indexSets.ts';
import { keyConditionsOf, type Constant } from './keyConditions.ts';
import { layUnnestedGroup } from './layers/groups.ts';
import type { LayContext, SourceLookup } from './layers/layer.ts';
import { layStage } from './layers/registry.ts';
import { isStage, type PlannedStage, type Rewrite, type RuleName } from './logical.ts';
import { rowForRow } from './rewrites/limitUp.ts';
import { rewrite } from './rewrites/rewrite.ts';
import type { LineSource, OrderedWalk, PhysicalPlan, PhysicalStep } from './physical.ts';
import { indexesOf, keysOf, reasonFor, wayName, type Weighed } from './reasons.ts';
import { Selectivity, type PlannedSource } from './source.ts';
import { imagined, type IndexStatistics } from './statistics.ts';
import { fullScanWay, indexWay, servedBy, type Question, type UselessIndex, type Way } from './ways.ts';

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
  const conditions = conjuncts.flatMap((conjunct) => keyConditionsOf(conjunct, constant));
  const question: Question = {
    conjuncts,
    conditions,
    alternatives: alternativesOf(conjuncts, conditions, constant),
    order: order?.stage.keys ?? [],
    demand: demandOf(order === undefined ? following : following.slice(following.indexOf(order) + 1), countOf),
    read: options.withoutRules?.includes('index-only')
      ? undefined
      : readToTheEnd(
          conjuncts.map(({ expression }) => expression),
          following.map(({ stage }) => stage),
        ),
  };
  const selectivity = new Selectivity(source, options.parameters);
  const { chosen, ways, useless, considered } = weigh(source, question, selectivity, options);
  const answered = options.withoutRules?.includes('index-only') ? undefined : answeredBy(source, considered, question, following, options);
  const told = (): Weighed[] =>
    tell(
      source,
      question,
      chosen,
      ways,
      useless,
      [from, ...wheres, ...(chosen.match?.ordered && order ? [order] : [])].map(({ line }) => line),
    );
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
  if (answered !== undefined || chosen.covering !== undefined) {
    const index = answered ?? chosen;
    rewrites.push({
      rule: 'index-only',
      detail: `all that is asked stands in ${index.statistics?.definition.name ?? ''}, so no document is read`,
      lines: [from.line],
    });
  }
  const physical =
    answered === undefined
      ? layOut(from, wheres, following, order, source, question, chosen, selectivity, context)
      : layAnswered(from, wheres, answered, context);
  // Words are made when someone reads them: finding one document by its identity takes less time than telling of it.
  let weighed: readonly Weighed[] | undefined;
  let suggestions: readonly Suggestion[] | undefined;
  return {
    physical,
    rewrites,
    get suggestions() {
      return (suggestions ??= options.whatIf?.length || answered ? [] : adviseOn(source, question, chosen, selectivity));
    },
    get weighed() {
      return (weighed ??= [...(answered === undefined ? told() : tellAnswered(source, answered, told())), ...joins]);
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
  const single = looked.filter(isWay);
  const ways = [
    fullScanWay(source, question, selectivity),
    ...single,
    ...unionWays(source, considered, question, selectivity),
    ...intersectionWays(source, single, question, selectivity),
  ];
  const insisted = ways.find((way) => options.useIndex !== undefined && way.statistics?.definition.name === options.useIndex);
  const chosen = insisted ?? ways.reduce((best, way) => (way.cost < best.cost ? way : best));
  return { chosen, ways, useless: looked.filter((way): way is UselessIndex => !isWay(way)), considered };
}

/** A group right after the conditions that an index answers by itself; the group's stage, and what comes after it. */
interface Answered extends AnsweredGroup {
  readonly group: PlannedStage<GroupStage | GroupAllStage>;
  readonly after: readonly PlannedStage[];
}

function answeredBy(
  source: PlannedSource,
  considered: readonly IndexStatistics[],
  question: Question,
  following: readonly PlannedStage[],
  { useIndex }: PlanOptions,
): Answered | undefined {
  const at = following.findIndex(({ stage }) => stage.kind !== 'mark');
  const group = following[at];
  if (!isStage(group, 'group') && !isStage(group, 'groupAll')) return undefined;
  const allowed = considered.filter(({ definition }) => useIndex === undefined || definition.name === useIndex);
  const found = answeredGroup(source, allowed, question, group);
  return found && { ...found, group, after: following.slice(at + 1) };
}

function layAnswered(
  from: PlannedStage<FromStage>,
  wheres: readonly PlannedStage<WhereStage>[],
  { step: found, group, after, entries }: Answered,
  context: LayContext,
): PhysicalPlan {
  const inner = [from, ...wheres.filter(({ uncounted }) => !uncounted)].map(({ line }) => line);
  const step: PhysicalStep = {
    ...found,
    inner,
    lines: [...inner, group.line],
    estimatedRows: found.by === undefined ? 1 : entries,
  };
  const lines: LineSource[] = [
    ...inner.map((line): LineSource => ({ line, step, counts: 'inner' })),
    { line: group.line, step, counts: 'out' },
  ];
  return { root: layRest(step, after, undefined, context, lines), lines: lastOfEach(lines) };
}

function tellAnswered(source: PlannedSource, answered: Answered, others: readonly Weighed[]): Weighed[] {
  const { definition, built } = answered.statistics;
  const chosen: Weighed = {
    way: 'index-only scan',
    collection: source.name,
    index: definition.name,
    keys: keyTexts(definition),
    whatIf: built === undefined,
    chosen: true,
    reason: answered.step.by === undefined ? 'its entries are counted without being read' : 'one look for each different value',
    documentsRead: 0,
    indexEntriesRead: Math.round(answered.entries),
    cost: Math.round(answered.entries),
    lines: others[0]?.lines ?? [],
  };
  const rest = others.filter(({ index, cost }) => index !== definition.name || cost !== undefined);
  return [chosen, ...rest.map((way) => (way.chosen ? { ...way, chosen: false, reason: 'the group is answered without it' } : way))];
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
    ...(indexesOf(way).length > 0 && {
      index: indexesOf(way)
        .map(({ definition }) => definition.name)
        .join(' + '),
      keys: keysOf(way),
    }),
    whatIf: indexesOf(way).some(({ built }) => built === undefined),
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
  const served = servedBy(chosen);
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
      chosen.kind === 'fullScan' ? Infinity : chosen.indexEntriesRead || chosen.rows,
      source.store.count * selectivity.of(passed(upTo)),
    );
  const estimated = (upTo: number) => (upTo === wheres.length - 1 ? chosen.rows : rowsAfter(upTo));

  // The first condition is tested while reading; the others are steps of their own, so that each line has its counts.
  const [first, ...others] = wheres;
  const walk = chosen.match?.ordered;
  const orderIsServed = walk?.left.length === 0;
  const isPartial = walk !== undefined && !orderIsServed;
  const testsAll = others.every(({ line }) => residualOf(line) === undefined);
  const demand = testsAll && (question.order.length === 0 || orderIsServed) ? question.demand : undefined;
  const orderLine = orderIsServed && order ? [order.line] : [];
  let step = access(source, chosen, {
    lines: [from.line, ...(first ? [first.line] : []), ...servedLines(chosen, others), ...orderLine],
    estimatedRows: Math.min(first ? estimated(0) : chosen.rows, demand ?? Infinity),
    condition: first && residualOf(first.line),
    demand,
    pace: isPartial ? question.demand : undefined,
  });
  lines.push({ line: from.line, step, counts: 'read' });
  if (first && !first.uncounted) lines.push({ line: first.line, step, counts: 'out' });
  others.forEach((where, i) => {
    const condition = residualOf(where.line);
    if (condition !== undefined) step = { kind: 'filter', lines: [where.line], estimatedRows: estimated(i + 1), condition, input: step };
    if (!where.uncounted) lines.push({ line: where.line, step, counts: 'out' });
  });
  return { root: layRest(step, following, walk && order && { order, walk }, context, lines), lines: lastOfEach(lines) };
}

/** Lines of later conditions that the index serves whole, so that no step of their own is left for them. */
function servedLines(chosen: Way, others: readonly PlannedStage<WhereStage>[]): number[] {
  return others.filter(({ line }) => servedBy(chosen).some((conjunct) => conjunct.line === line)).map(({ line }) => line);
}

interface AccessParts {
  readonly lines: readonly number[];
  readonly estimatedRows: number;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
  readonly pace: number | undefined;
}

function access(source: PlannedSource, { statistics, match, covering, set }: Way, parts: AccessParts): PhysicalStep {
  if (set !== undefined) {
    const named = set.parts.map((part) => ({ index: part.statistics.definition.name, ranges: part.match.ranges }));
    return { kind: 'indexSetScan', collection: source.name, combine: set.combine, parts: named, ...parts };
  }
  if (statistics === undefined || match === undefined) return { kind: 'fullScan', collection: source.name, ...parts };
  return {
    kind: 'indexScan',
    collection: source.name,
    index: statistics.definition.name,
    ranges: match.ranges,
    lookup: match.lookup,
    ordered: match.ordered,
    covering,
    ...parts,
  };
}

function layRest(
  access: PhysicalStep,
  following: readonly PlannedStage[],
  given: { order: PlannedStage<OrderStage>; walk: OrderedWalk } | undefined,
  context: LayContext,
  lines: LineSource[],
): PhysicalStep {
  let step = access;
  for (let i = 0; i < following.length; i++) {
    const planned = following[i];
    const after = following.slice(i + 1);
    const { line, uncounted } = planned;
    if (isStage(planned, 'order')) {
      const isServed = planned === given?.order && given.walk.left.length === 0;
      if (planned === given?.order) step = isServed ? step : layPartialSort(line, step, given.walk);
      else step = layOrder(planned, step, after, context);
      lines.push({ line, step, counts: isServed ? 'out' : 'in' });
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

function layPartialSort(line: number, input: PhysicalStep, { given, left }: OrderedWalk): PhysicalStep {
  return { kind: 'partialSort', lines: [line], estimatedRows: input.estimatedRows, given, left, input };
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
