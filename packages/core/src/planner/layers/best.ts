import type { BestStage } from '../../language/stages/stage.ts';
import type { PlannedStage } from '../logical.ts';
import type { PhysicalStep, Ranking } from '../physical.ts';
import { readBest } from './readBest.ts';
import { scoringIndex } from './scoring.ts';
import type { LayContext } from './layer.ts';

export function layBest(planned: PlannedStage<BestStage>, input: PhysicalStep, context: LayContext): PhysicalStep {
  const { stage, id } = planned;
  const { count, scores, depth } = readBest(planned, context);
  const rankings = scores.map((score): Ranking => ({ ...score, index: scoringIndex(context.others, score.expression)?.definition.name }));
  return {
    kind: 'best',
    stages: [id],
    estimatedRows: Math.min(input.estimatedRows, count),
    count,
    rankings: rankings as [Ranking, ...Ranking[]],
    target: stage.target?.names,
    depth,
    collection: context.source.name,
    input,
  };
}
