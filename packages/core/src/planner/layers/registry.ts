import type { NodeId } from '../../language/places.ts';
import { isStage, type PlannableStage, type PlannedStage } from '../logical.ts';
import type { PhysicalStep } from '../physical.ts';
import { readsOf, usedBy } from '../rewrites/reads.ts';
import { conjunctsOf } from '../conjuncts.ts';
import { compileValue } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import { layGroup, unnestedRows } from './groups.ts';
import { layBest } from './best.ts';
import { layJoin } from './joins.ts';
import type { LayContext } from './layer.ts';

/** Lays a stage's operator over the step below it. */
type Layer<S extends PlannableStage> = (
  planned: PlannedStage<S>,
  input: PhysicalStep,
  context: LayContext,
  following: readonly PlannedStage[],
) => PhysicalStep;

type Laid = Exclude<PlannableStage['kind'], 'from' | 'order' | 'mark'>;

/** One layer for each kind of stage; orders are laid with what follows them. */
const layers: { readonly [K in Laid]: Layer<Extract<PlannableStage, { kind: K }>> } = {
  where: ({ stage, id }, input) => ({
    kind: 'filter',
    stages: [id],
    estimatedRows: input.estimatedRows / 3,
    condition: stage.condition,
    input,
  }),
  select: ({ stage, id }, input) => ({ kind: 'project', stages: [id], estimatedRows: input.estimatedRows, items: stage.items, input }),
  omit: ({ stage, id }, input) => ({ kind: 'omit', stages: [id], estimatedRows: input.estimatedRows, paths: stage.paths, input }),
  compute: ({ stage, id }, input) => ({
    kind: 'compute',
    stages: [id],
    estimatedRows: input.estimatedRows,
    assignments: stage.assignments,
    input,
  }),
  unnest: ({ stage, id }, input, context, following) => ({
    kind: 'unnest',
    stages: [id],
    estimatedRows: unnestedRows(stage, input, context),
    path: stage.path,
    target: stage.target.names,
    position: stage.position?.names,
    keepEmpty: stage.keepEmpty,
    used: used(id, following, context),
    input,
  }),
  join: (planned, input, context, following) => layJoin(planned, input, context, used(planned.id, following, context)),
  leftJoin: (planned, input, context, following) => layJoin(planned, input, context, used(planned.id, following, context)),
  gatherJoin: (planned, input, context, following) => layJoin(planned, input, context, used(planned.id, following, context)),
  group: layGroup,
  groupAll: layGroup,
  rank: layRank,
  denseRank: layRank,
  rowNumber: layRank,
  best: layBest,
  sample: (planned, input, { countOf, constant }) => {
    const count = countOf(planned);
    const seed = planned.stage.seed && constant(planned.stage.seed);
    return {
      kind: 'sample',
      stages: [planned.id],
      estimatedRows: Math.min(input.estimatedRows, count),
      count,
      seed: typeof seed === 'number' ? seed : undefined,
      input,
    };
  },
  offset: (planned, input, { countOf }) => {
    const count = countOf(planned);
    return { kind: 'offset', stages: [planned.id], estimatedRows: Math.max(0, input.estimatedRows - count), count, input };
  },
  limit: (planned, input, { countOf }) => {
    const count = countOf(planned);
    // A top-N sort has kept just so many already.
    if (input.kind === 'topNSort' && input.count === count) return input;
    return { kind: 'limit', stages: [planned.id], estimatedRows: Math.min(input.estimatedRows, count), count, input };
  },
};

/** The fields that rows made here are to have; told as a rewrite, where it is not all of them. */
function used(id: NodeId, following: readonly PlannedStage[], { rewrites, keepsUsed }: LayContext): readonly string[] | undefined {
  const fields = keepsUsed ? usedBy(following.map(({ stage }) => stage)) : undefined;
  if (fields !== undefined)
    rewrites.push({
      rule: 'used fields alone',
      detail: () => `rows made here have ${fields.length === 0 ? 'no other field' : `only ${fields.join(', ')}`} beside what is added`,
      stages: [id],
    });
  return fields;
}

/** Lays one stage; marks and sources lay nothing. */
export function layStage(
  planned: PlannedStage,
  input: PhysicalStep,
  context: LayContext,
  following: readonly PlannedStage[],
): PhysicalStep {
  const { kind } = planned.stage;
  if (kind === 'from' || kind === 'order' || kind === 'mark') return input;
  return (layers[kind] as unknown as Layer<PlannableStage>)(planned, input, context, following);
}

function layRank(
  { stage, id }: PlannedStage<Extract<PlannableStage, { kind: 'rank' | 'denseRank' | 'rowNumber' }>>,
  input: PhysicalStep,
  context: LayContext,
  following: readonly PlannedStage[],
): PhysicalStep {
  return {
    kind: 'rank',
    stages: [id],
    estimatedRows: input.estimatedRows,
    ranking: stage.kind,
    target: stage.target.names,
    partition: stage.partition,
    keys: stage.keys,
    atMost: greatestRank(stage.target.names, following, context),
    input,
  };
}

/** The greatest rank that the next line keeps, where it says so: `@.place <= 3`, `< 4` or `== 1`. */
function greatestRank(target: readonly string[], following: readonly PlannedStage[], { constant }: LayContext): number | undefined {
  const next = following.find(({ stage }) => stage.kind !== 'mark');
  if (!isStage(next, 'where')) return undefined;
  const bounds = conjunctsOf(next.stage.condition, next.id).flatMap(({ expression }): number[] => {
    if (expression.kind !== 'comparison' || expression.left.kind !== 'path') return [];
    const [reads] = [readsOf(expression.left)];
    const isTarget =
      reads !== 'all' && reads.length === 1 && reads[0]!.length === target.length && reads[0]!.every((name, i) => name === target[i]);
    if (!isTarget || expression.left.segments.length !== target.length || readsOf(expression.right).length > 0) return [];
    const bound = expression.right.kind === 'literal' ? compileValue(expression.right)({}, makeContext({})) : constant(expression.right);
    if (typeof bound !== 'number') return [];
    if (expression.operator === '<=' || expression.operator === '==') return [bound];
    return expression.operator === '<' ? [Math.ceil(bound) - 1] : [];
  });
  return bounds.length === 0 ? undefined : Math.max(0, Math.floor(Math.min(...bounds)));
}
