import type { AskedSource } from './askedSource.ts';
import type { NodeId } from '../language/places.ts';
import type { OrderStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import { cheapFirst } from './layers/cheapFirst.ts';
import { joined, type Conjunct } from './conjuncts.ts';
import { demandOf } from './demand.ts';
import { layUnnestedGroup } from './layers/groups.ts';
import type { LayContext } from './layers/layer.ts';
import { layStage } from './layers/registry.ts';
import { isStage, type PlannedStage } from './logical.ts';
import type { LineSource, OrderedWalk, PhysicalPlan, PhysicalStep } from './physical.ts';
import type { PlannedSource } from './source.ts';
import { servedBy, type AccessPath } from './paths/path.ts';

/** Lays an operator to every stage, upon the path that was chosen. */
export function layOut(asked: AskedSource, chosen: AccessPath, context: LayContext): PhysicalPlan {
  const { from, wheres, following, order, source, question, selectivity, about } = asked;
  const counted: LineSource[] = [];
  const served = servedBy(chosen);
  const byStage = new Map<NodeId, Conjunct[]>();
  for (const conjunct of question.conjuncts) byStage.set(conjunct.stage, [...(byStage.get(conjunct.stage) ?? []), conjunct]);
  const conjunctsOf = (id: NodeId) => byStage.get(id) ?? [];
  const residualOf = (id: NodeId) =>
    joined(
      cheapFirst(
        conjunctsOf(id).filter((conjunct) => !served.includes(conjunct)),
        selectivity,
      ),
    );
  const shares = wheres.length > 1 ? selectivity.along(wheres.map(({ id }) => conjunctsOf(id))) : [];
  const rowsAfter = (upTo: number) =>
    Math.min(chosen.kind === 'fullScan' ? Infinity : chosen.indexEntriesRead || chosen.rows, source.store.count * (shares[upTo] ?? 1));
  const estimated = (upTo: number) => (upTo === wheres.length - 1 ? chosen.rows : rowsAfter(upTo));

  // The first condition is tested while reading; the others are steps of their own, so that each line has its counts.
  const [first, ...others] = wheres;
  const walk = chosen.match?.ordered;
  const orderIsServed = walk?.left.length === 0;
  const isPartial = walk !== undefined && !orderIsServed;
  const testsAll = others.every(({ id }) => residualOf(id) === undefined);
  const skip = chosen.skipped ?? 0;
  const all = about === undefined && testsAll && (question.order.length === 0 || orderIsServed) ? question.demand : undefined;
  const demand = all === undefined ? undefined : Math.max(0, all - skip);
  const orderLine = orderIsServed && order ? [order.id] : [];
  const offset = skip > 0 ? following.find((one) => isStage(one, 'offset')) : undefined;
  if (offset !== undefined)
    context.rewrites.push({
      rule: 'offset counted',
      detail: () => `${skip.toLocaleString('en')} rows are passed over by counting entries of the index, and none of them is read`,
      stages: [offset.id],
    });
  let step = access(source, chosen, {
    stages: [from.id, ...(first ? [first.id] : []), ...servedLines(chosen, others), ...orderLine, ...(offset ? [offset.id] : [])],
    estimatedRows: Math.min(Math.max(0, (first ? estimated(0) : chosen.rows) - skip), demand ?? about ?? Infinity),
    condition: first && residualOf(first.id),
    demand,
    skip,
    pace: isPartial ? question.demand : about,
  });
  counted.push({ id: from.id, step, counts: 'read' });
  if (first && !first.uncounted) counted.push({ id: first.id, step, counts: 'out' });
  others.forEach((where, i) => {
    const condition = residualOf(where.id);
    if (condition !== undefined) step = { kind: 'filter', stages: [where.id], estimatedRows: estimated(i + 1), condition, input: step };
    if (!where.uncounted) counted.push({ id: where.id, step, counts: 'out' });
  });
  const rest = layRest(step, following.filter((one) => one !== offset), walk && order && { order, walk }, context, counted); // prettier-ignore
  if (offset !== undefined && !offset.uncounted) counted.push({ id: offset.id, step, counts: 'out' });
  return { root: rest, stages: counted };
}

/** Lines of later conditions that the index serves whole, so that no step of their own is left for them. */
function servedLines(chosen: AccessPath, others: readonly PlannedStage<WhereStage>[]): NodeId[] {
  return others.filter(({ id }) => servedBy(chosen).some((conjunct) => conjunct.stage === id)).map(({ id }) => id);
}

interface AccessParts {
  readonly stages: readonly NodeId[];
  readonly estimatedRows: number;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
  readonly skip: number;
  readonly pace: number | undefined;
}

function access(
  source: PlannedSource,
  { statistics, match, covering, set, path, cost, sorting }: AccessPath,
  own: AccessParts,
): PhysicalStep {
  const parts = { ...own, cost: cost - sorting };
  if (set !== undefined) {
    const asked = set.parts.map(({ asks }) => asks);
    return { kind: 'indexSetScan', collection: source.name, combine: set.combine, ...parts, parts: asked };
  }
  if (path !== undefined) {
    const { definition } = path.statistics;
    return { kind: 'positionsScan', collection: source.name, index: definition.name, lookup: path.lookup, words: path.words, ...parts };
  }
  if (statistics === undefined || match === undefined)
    return { kind: 'fullScan', collection: source.name, ofView: source.isView, ...parts };
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

/** Lays what comes after the documents: one step upon the other. */
export function layRest(
  access: PhysicalStep,
  following: readonly PlannedStage[],
  given: { order: PlannedStage<OrderStage>; walk: OrderedWalk } | undefined,
  context: LayContext,
  counted: LineSource[],
): PhysicalStep {
  let step = access;
  for (let i = 0; i < following.length; i++) {
    const planned = following[i]!;
    const after = following.slice(i + 1);
    const { id, uncounted } = planned;
    if (isStage(planned, 'order')) {
      const isServed = planned === given?.order && given.walk.left.length === 0;
      if (planned === given?.order) step = isServed ? step : layPartialSort(id, step, given.walk);
      else step = layOrder(planned, step, after, context);
      counted.push({ id, step, counts: isServed ? 'out' : 'in' });
      continue;
    }
    const fused = layUnnestedGroup(following.slice(i), step, context);
    if (fused !== undefined) {
      step = fused.step;
      const done = following.slice(i, i + fused.count);
      for (const one of done.slice(0, -1)) if (one.stage.kind !== 'mark') counted.push({ id: one.id, step, counts: 'inner' });
      counted.push({ id: done[done.length - 1]!.id, step, counts: 'out' });
      i += fused.count - 1;
      continue;
    }
    step = layStage(planned, step, context, after);
    if (!uncounted) counted.push({ id, step, counts: 'out' });
  }
  return step;
}

function layPartialSort(id: NodeId, input: PhysicalStep, { given, left }: OrderedWalk): PhysicalStep {
  return { kind: 'partialSort', stages: [id], estimatedRows: input.estimatedRows, given, left, input };
}

/** A sort; of the first rows alone where no more are wanted. */
function layOrder(
  { stage, id }: PlannedStage<OrderStage>,
  input: PhysicalStep,
  after: readonly PlannedStage[],
  { countOf }: LayContext,
): PhysicalStep {
  const demand = demandOf(after, countOf);
  const common = { keys: stage.keys, input };
  if (demand === undefined) return { kind: 'sort', stages: [id], estimatedRows: input.estimatedRows, ...common };
  const limitLine = after.find((later) => later.stage.kind === 'limit')?.id;
  return {
    kind: 'topNSort',
    stages: [id, ...(limitLine === undefined ? [] : [limitLine])],
    estimatedRows: Math.min(input.estimatedRows, demand),
    count: demand,
    ...common,
  };
}
