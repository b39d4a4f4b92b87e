import { expressionsOf } from '../../language/checkPipeline.ts';
import { lostPath, relevanceCalls } from '../../language/relevancePlace.ts';
import type { Call } from '../../language/tree.ts';
import type { PlannedStage } from '../logical.ts';
import type { PhysicalPlan } from '../physical.ts';
import { PlanProblem } from '../planRequest.ts';
import type { PlannedSource } from '../source.ts';

/** The calls that need to know how rare words are in the collection. */
const relevanceIn = (stages: readonly PlannedStage[]): readonly Call[] =>
  stages.flatMap(({ stage }) => (stage.kind === 'mark' ? [] : relevanceCalls(expressionsOf(stage))));

/**
 * Refuses to weigh words by a collection that does not hold them at that path, as a view may lead to.
 * @throws PlanProblem
 */
export function refuseLostRelevance(stages: readonly PlannedStage[]): void {
  const own = stages.flatMap(({ stage, id }) => (stage.kind === 'mark' ? [] : [{ stage, id }]));
  own.forEach(({ id }, at) => {
    const lost = lostPath(own.map(({ stage }) => stage), at); // prettier-ignore
    if (lost !== undefined)
      throw new PlanProblem(
        'relevance weighs words by how rare they are in the collection, and what it reads here is no field of that.',
        id,
        lost.path,
      );
  });
}

/** Lays the counting of words under everything, where rows are scored by them. */
export function withWordsCounted(plan: PhysicalPlan, stages: readonly PlannedStage[], source: PlannedSource): PhysicalPlan {
  const calls = relevanceIn(stages);
  if (calls.length === 0) return plan;
  const { root } = plan;
  const counting = stages.filter((one) => relevanceIn([one]).length > 0).map(({ id }) => id);
  const documents = source.store.count;
  return { ...plan, root: { kind: 'countWords', stages: counting, estimatedRows: root.estimatedRows, collection: source.name, calls, documents, input: root } }; // prettier-ignore
}
