import type { FromStage, OrderStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Answered } from './answered.ts';
import { cheapFirst } from './cheapFirst.ts';
import { joined } from './conjuncts.ts';
import { demandOf } from './demand.ts';
import { layUnnestedGroup } from './layers/groups.ts';
import type { LayContext } from './layers/layer.ts';
import { layStage } from './layers/registry.ts';
import { isStage, type PlannedStage } from './logical.ts';
import type { LineSource, OrderedWalk, PhysicalPlan, PhysicalStep } from './physical.ts';
import type { PlannedSource, Selectivity } from './source.ts';
import { servedBy, type Question, type Way } from './ways.ts';

/**
 * Lays an operator to every stage, upon the way that was chosen.
 * @param about so many rows of the way will be taken, where it is not known for sure
 */
export function layOut(
  from: PlannedStage<FromStage>,
  wheres: readonly PlannedStage<WhereStage>[],
  following: readonly PlannedStage[],
  order: PlannedStage<OrderStage> | undefined,
  source: PlannedSource,
  question: Question,
  chosen: Way,
  selectivity: Selectivity,
  context: LayContext,
  about: number | undefined,
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
  const demand = about === undefined && testsAll && (question.order.length === 0 || orderIsServed) ? question.demand : undefined;
  const orderLine = orderIsServed && order ? [order.line] : [];
  let step = access(source, chosen, {
    lines: [from.line, ...(first ? [first.line] : []), ...servedLines(chosen, others), ...orderLine],
    estimatedRows: Math.min(first ? estimated(0) : chosen.rows, demand ?? about ?? Infinity),
    condition: first && residualOf(first.line),
    demand,
    pace: isPartial ? question.demand : about,
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

function access(source: PlannedSource, { statistics, match, covering, set, path }: Way, parts: AccessParts): PhysicalStep {
  if (set !== undefined) {
    const named = set.parts.map((part) => ({ index: part.statistics.definition.name, ranges: part.match.ranges }));
    return { kind: 'indexSetScan', collection: source.name, combine: set.combine, parts: named, ...parts };
  }
  if (path !== undefined) {
    const { definition } = path.statistics;
    return { kind: 'positionsScan', collection: source.name, index: definition.name, lookup: path.lookup, words: path.words, ...parts };
  }
  if (statistics === undefined || match === undefined) return { kind: 'fullScan', collection: source.name, ...parts };
  return {
    kind: 'indexScan',
    collection: source.name,
    index: statistics.definition.name,
    ranges: match.ranges,
    lookup: match.lookup,
    ordered: match.ordered,
    withAbsent: match.withAbsent ?? false,
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

/** The same upon an index that answers the first group by itself. */
export function layAnswered(
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
