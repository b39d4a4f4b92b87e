import type { Expression } from '../../language/tree.ts';
import { isEffort, mostEffort } from '../../language/stages/best.ts';
import type { BestStage } from '../../language/stages/stage.ts';
import type { PlannedStage } from '../logical.ts';
import type { PhysicalStep, Ranking } from '../physical.ts';
import { PlanProblem } from '../planRequest.ts';
import { scoringIndex } from './scoring.ts';
import type { LayContext } from './layer.ts';

/** How many places count unless it is said: so many, or this many times the rows that are kept, whichever is more. */
const usualDepth = 100;
const depthByCount = 10;

export function layBest(
  planned: PlannedStage<BestStage>,
  input: PhysicalStep,
  { countOf, constant, others, source }: LayContext,
): PhysicalStep {
  const { stage, id } = planned;
  const count = countOf(planned);
  const number = (given: Expression | undefined, word: string, usual: number, least: number): number => {
    const value = given === undefined ? usual : constant(given);
    if (typeof value === 'number' && value >= least) return value;
    throw new PlanProblem(`${word} takes a number, ${least} or more, and was given ${JSON.stringify(value) ?? 'nothing'}.`, id, given!);
  };
  const rankings = stage.scores.map(({ expression, weight }): Ranking => ({
    expression,
    weight: number(weight, 'weight', 1, 0),
    index: scoringIndex(others, expression)?.definition.name,
  }));
  const effort = stage.effort && constant(stage.effort);
  if (stage.effort !== undefined && !isEffort(effort, count)) throw new PlanProblem(`effort takes a whole number from the ${count} rows that are kept to ${mostEffort}, and was given ${JSON.stringify(effort) ?? 'nothing'}.`, id, stage.effort); // prettier-ignore
  return {
    kind: 'best',
    stages: [id],
    estimatedRows: Math.min(input.estimatedRows, count),
    count,
    rankings: rankings as [Ranking, ...Ranking[]],
    target: stage.target?.names,
    depth: Math.floor(number(stage.depth, 'depth', Math.max(usualDepth, depthByCount * count), 1)),
    collection: source.name,
    input,
  };
}
