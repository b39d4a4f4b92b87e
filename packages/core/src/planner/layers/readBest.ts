import type { Expression } from '../../language/tree.ts';
import { isEffort, mostEffort } from '../../language/stages/best.ts';
import type { BestStage } from '../../language/stages/stage.ts';
import type { PlannedStage } from '../logical.ts';
import { PlanProblem } from '../planRequest.ts';
import type { LayContext } from './layer.ts';

/** How many places count unless it is said: so many, or this many times the rows that are kept, whichever is more. */
const usualDepth = 100;
const depthByCount = 10;

/** What a best asks for, its numbers worked out. */
export interface ReadBest {
  readonly count: number;
  readonly scores: readonly { readonly expression: Expression; readonly weight: number }[];
  /** How many places of each ranking count, where there are several. */
  readonly depth: number;
  readonly effort: number | undefined;
}

/** @throws PlanProblem where a parameter gives what is no weight, depth or effort */
export function readBest(planned: PlannedStage<BestStage>, { countOf, constant }: Pick<LayContext, 'countOf' | 'constant'>): ReadBest {
  const { stage, id } = planned;
  const count = countOf(planned);
  const number = (given: Expression | undefined, word: string, usual: number, least: number): number => {
    const value = given === undefined ? usual : constant(given);
    if (typeof value === 'number' && value >= least) return value;
    throw new PlanProblem(`${word} takes a number, ${least} or more, and was given ${JSON.stringify(value) ?? 'nothing'}.`, id, given!);
  };
  const scores = stage.scores.map(({ expression, weight }) => ({ expression, weight: number(weight, 'weight', 1, 0) }));
  const effort = stage.effort && constant(stage.effort);
  if (stage.effort !== undefined && !isEffort(effort, count)) throw new PlanProblem(`effort takes a whole number from the ${count} rows that are kept to ${mostEffort}, and was given ${JSON.stringify(effort) ?? 'nothing'}.`, id, stage.effort); // prettier-ignore
  const depth = Math.floor(number(stage.depth, 'depth', Math.max(usualDepth, depthByCount * count), 1));
  return { count, scores, depth, effort: effort === undefined ? undefined : Number(effort) };
}
