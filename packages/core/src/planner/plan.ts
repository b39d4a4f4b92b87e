import { compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { keyTexts } from '../indexes/definition.ts';
import type { PlacedStage } from '../language/pipeline.ts';
import { isRowCount } from '../language/stages/rowCount.ts';
import type { FromStage, OrderStage, PipelineStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import { adviseOn, type Suggestion } from './advice.ts';
import { cheapFirst } from './cheapFirst.ts';
import { conjunctsOf, joined, type Conjunct } from './conjuncts.ts';
import { keyConditionsOf, type Constant } from './keyConditions.ts';
import type { LineSource, PhysicalPlan, PhysicalStep } from './physical.ts';
import { keysOf, reasonFor, wayName, type Weighed } from './reasons.ts';
import { Selectivity, type PlannedSource } from './source.ts';
import { imagined } from './statistics.ts';
import { fullScanWay, indexWay, type Question, type UselessIndex, type Way } from './ways.ts';

/** A stage that is on and could be read, with its line. */
export interface PlannedStage<S extends PipelineStage = PipelineStage> {
  readonly stage: S;
  readonly line: number;
  readonly placed: PlacedStage;
}

export interface PlanOptions {
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
  /** Planned against though they are not built; such a plan cannot be run. */
  readonly whatIf?: readonly IndexDefinition[];
  readonly ignoreIndexes?: readonly string[];
  readonly useIndex?: string;
}

export interface Planned {
  readonly physical: PhysicalPlan;
  readonly weighed: readonly Weighed[];
  readonly suggestions: readonly Suggestion[];
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

function isStage<K extends PipelineStage['kind']>(
  planned: PlannedStage | undefined,
  kind: K,
): planned is PlannedStage<Extract<PipelineStage, { kind: K }>> {
  return planned?.stage.kind === kind;
}

/**
 * Plans a pipeline: weighs the ways to its documents, and lays an operator to every stage.
 * @throws PlanProblem where offset or limit is given no whole number
 */
export function plan(stages: readonly PlannedStage[], source: PlannedSource, options: PlanOptions): Planned {
  const context = makeContext(options.parameters, options.now);
  const constant: Constant = (expression) => compileValue(expression)({}, context);
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
  while (isStage(rest[wheres.length], 'where')) wheres.push(rest[wheres.length] as PlannedStage<WhereStage>);
  const following = rest.slice(wheres.length);
  const order = isStage(following[0], 'order') ? (following[0] as PlannedStage<OrderStage>) : undefined;

  const conjuncts = wheres.flatMap(({ stage, line }) => conjunctsOf(stage.condition, line));
  const question: Question = {
    conjuncts,
    conditions: conjuncts.flatMap((conjunct) => keyConditionsOf(conjunct, constant)),
    order: order?.stage.keys ?? [],
    demand: demandOf(order === undefined ? following : following.slice(1), countOf),
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
  const physical = layOut(from, wheres, following, source, question, chosen, selectivity, countOf, constant);
  // Words are made when someone reads them: finding one document by its identity takes less time than telling of it.
  let weighed: readonly Weighed[] | undefined;
  return {
    physical,
    suggestions,
    get weighed() {
      return (weighed ??= told());
    },
  };
}

/** Stages that give one row for each, in the same order. */
const rowForRow: ReadonlySet<PipelineStage['kind']> = new Set(['select', 'omit', 'compute']);

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
  source: PlannedSource,
  question: Question,
  chosen: Way,
  selectivity: Selectivity,
  countOf: (stage: PlannedStage) => number,
  constant: Constant,
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
  const orderLine = orderIsServed && following[0] ? [following[0].line] : [];
  let step = access(source, chosen, {
    lines: [from.line, ...(first ? [first.line] : []), ...(chosen.match ? servedLines(chosen, others) : []), ...orderLine],
    estimatedRows: Math.min(first ? estimated(0) : chosen.rows, demand ?? Infinity),
    condition: first && residualOf(first.line),
    demand,
  });
  lines.push({ line: from.line, step, counts: 'read' });
  if (first) lines.push({ line: first.line, step, counts: 'out' });
  others.forEach((where, i) => {
    const condition = residualOf(where.line);
    if (condition !== undefined) step = { kind: 'filter', lines: [where.line], estimatedRows: estimated(i + 1), condition, input: step };
    lines.push({ line: where.line, step, counts: 'out' });
  });
  return { root: layRest(step, following, orderIsServed, countOf, constant, lines), lines };
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
  orderIsServed: boolean,
  countOf: (stage: PlannedStage) => number,
  constant: Constant,
  lines: LineSource[],
): PhysicalStep {
  let step = access;
  following.forEach((planned, i) => {
    const { stage, line } = planned;
    switch (stage.kind) {
      case 'order': {
        const demand = demandOf(following.slice(i + 1), countOf);
        if (i === 0 && orderIsServed) {
          lines.push({ line, step, counts: 'out' });
          return;
        }
        const limitLine = following.slice(i + 1).find((later) => later.stage.kind === 'limit')?.line;
        const common = { keys: stage.keys, input: step };
        step =
          demand === undefined
            ? { kind: 'sort', lines: [line], estimatedRows: step.estimatedRows, ...common }
            : {
                kind: 'topNSort',
                lines: [line, ...(limitLine === undefined ? [] : [limitLine])],
                estimatedRows: Math.min(step.estimatedRows, demand),
                count: demand,
                ...common,
              };
        lines.push({ line, step, counts: 'in' });
        return;
      }
      case 'select':
        step = { kind: 'project', lines: [line], estimatedRows: step.estimatedRows, items: stage.items, input: step };
        break;
      case 'omit':
        step = { kind: 'omit', lines: [line], estimatedRows: step.estimatedRows, paths: stage.paths, input: step };
        break;
      case 'compute':
        step = { kind: 'compute', lines: [line], estimatedRows: step.estimatedRows, assignments: stage.assignments, input: step };
        break;
      case 'sample': {
        const count = countOf(planned);
        const seed = stage.seed && constant(stage.seed);
        step = {
          kind: 'sample',
          lines: [line],
          estimatedRows: Math.min(step.estimatedRows, count),
          count,
          seed: typeof seed === 'number' ? seed : undefined,
          input: step,
        };
        break;
      }
      case 'offset': {
        const count = countOf(planned);
        step = { kind: 'offset', lines: [line], estimatedRows: Math.max(0, step.estimatedRows - count), count, input: step };
        break;
      }
      case 'limit': {
        const count = countOf(planned);
        // A top-N sort has kept just so many already.
        if (step.kind === 'topNSort' && step.count === count) break;
        step = { kind: 'limit', lines: [line], estimatedRows: Math.min(step.estimatedRows, count), count, input: step };
        break;
      }
      case 'where':
        step = { kind: 'filter', lines: [line], estimatedRows: step.estimatedRows / 3, condition: stage.condition, input: step };
        break;
      case 'from':
        return;
    }
    lines.push({ line, step, counts: 'out' });
  });
  return step;
}
