import { expressionsOf } from '../../language/checkPipeline.ts';
import { lostPath, relevanceCalls } from '../../language/relevancePlace.ts';
import type { Call, Expression } from '../../language/tree.ts';
import type { PlannedStage } from '../logical.ts';
import type { PhysicalPlan, PhysicalStep } from '../physical.ts';
import { PlanProblem } from '../planRequest.ts';
import type { LayContext } from './layer.ts';
import { scoringIndex } from './scoring.ts';

/** The calls that need to know how rare words are in the collection. */
const relevanceIn = (stages: readonly PlannedStage[]): readonly Call[] =>
  stages.flatMap(({ stage }) => (stage.kind === 'mark' ? [] : relevanceCalls(expressionsOf(stage))));

/**
 * Refuses to weigh words by a collection that does not hold them at that path, as a view may lead to.
 * @throws PlanProblem
 */
export function refuseLostRelevance(stages: readonly PlannedStage[]): void {
  const own = stages.flatMap(({ stage, id }) => (stage.kind === 'mark' ? [] : [{ stage, id }]));
  const written = own.map(({ stage }) => stage);
  own.forEach(({ id }, at) => {
    const lost = lostPath(written, at);
    if (lost !== undefined)
      throw new PlanProblem(
        'relevance weighs words by how rare they are in the collection, and what it reads here is no field of that.',
        id,
        lost.path,
      );
  });
}

/** Lays the counting of words under everything, where rows are scored by them. An index knows them already. */
export function withWordsCounted(plan: PhysicalPlan, stages: readonly PlannedStage[], { source, others }: LayContext): PhysicalPlan {
  const calls = relevanceIn(stages).map((call) => ({ call, index: scoringIndex(others, call)?.definition.name }));
  const { root } = plan;
  // Where the index gives the scores themselves, nothing else has to know how rare words are.
  const given = scoredWithin(root);
  const needed = calls.filter(({ call }) => !given.has(call));
  if (needed.length === 0) return plan;
  const counting = stages.filter((one) => relevanceIn([one]).length > 0).map(({ id }) => id);
  const documents = source.store.count;
  return { ...plan, root: { kind: 'countWords', stages: counting, estimatedRows: root.estimatedRows, collection: source.name, calls: needed, documents, input: root } }; // prettier-ignore
}

/** The expressions whose scores come from an index. */
function scoredWithin(step: PhysicalStep): ReadonlySet<Expression> {
  const found = new Set<Expression>();
  for (let at: PhysicalStep | undefined = step; at !== undefined; at = 'input' in at ? at.input : undefined) {
    if (at.kind === 'best') for (const { expression, index } of at.rankings) if (index !== undefined) found.add(expression);
    if (at.kind === 'scoredScan') found.add(at.expression);
    if (at.kind === 'fusedScan') for (const { expression } of at.rankings) found.add(expression);
  }
  return found;
}
