import { whatIfOthers } from '../paths/others.ts';
import type { BestStage } from '../../language/stages/stage.ts';
import type { AskedSource } from '../askedSource.ts';
import { costs } from '../cost.ts';
import type { Insistence } from '../insisting.ts';
import type { LayContext } from '../layers/layer.ts';
import { layRest } from '../layOut.ts';
import { scoringIndex, scoringOf } from '../layers/scoring.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import type { LineSource, PhysicalPlan, ScoredScan } from '../physical.ts';
import type { PlanOptions } from '../planRequest.ts';
import type { PositionsIndex } from '../positionsIndex.ts';
import { joined } from '../conjuncts.ts';

/** The best by one score, right after the conditions, from an index that knows the scores. */
export interface ScoredByIndex {
  readonly best: PlannedStage<BestStage>;
  readonly statistics: PositionsIndex;
  readonly entries: number;
  readonly documentsRead: number;
  readonly rows: number;
  /** How many candidates are looked at, where the answer may be approximate. */
  readonly effort: number | undefined;
  readonly cost: number;
  readonly after: readonly PlannedStage[];
}

/** The best that come right after the conditions. */
export function bestThatFollows(following: readonly PlannedStage[]): PlannedStage<BestStage> | undefined {
  const first = following.find(({ stage }) => stage.kind !== 'mark');
  return isStage(first, 'best') ? first : undefined;
}

/** How an index would give the best, where one can: undefined where several scores are fused, or none is known by an index. */
export function scoredByIndex(asked: AskedSource, options: PlanOptions, insisted: Insistence): ScoredByIndex | undefined {
  const { source, question, following, selectivity, countOf, constant } = asked;
  const best = bestThatFollows(following);
  const [score, ...more] = best?.stage.scores ?? [];
  if (best === undefined || score === undefined || more.length > 0 || !insisted.allows('index')) return undefined;
  const allowed = whatIfOthers(source, options).filter(({ definition }) => insisted.allowsIndex(definition.name));
  const statistics = scoringIndex(allowed, score.expression);
  if (statistics === undefined) return undefined;
  const effort =
    scoringOf(statistics)!.isApproximate === undefined || best.stage.effort === undefined ? undefined : Number(constant(best.stage.effort));
  const { documents, entries } = scoringOf(statistics)!.about(statistics.index, score.expression, { valueOf: constant, effort });
  const scored = Math.round(documents * statistics.scale);
  const share = Math.max(selectivity.of(question.conjuncts), 0.5 / Math.max(1, source.store.count));
  const rows = Math.min(countOf(best), scored * share);
  const documentsRead = Math.min(scored, Math.ceil(rows / share));
  const looked = Math.round(entries * statistics.scale);
  const cost = costs.start + looked * costs.scoredEntry + documentsRead * costs.fetched;
  return { best, statistics, entries: looked, documentsRead, rows, effort, cost, after: following.slice(following.indexOf(best) + 1) };
}

/** Lays what follows upon an index that gives the best by itself. */
export function planScored(
  { from, wheres, question, source, countOf }: AskedSource,
  found: ScoredByIndex,
  context: LayContext,
): PhysicalPlan {
  const { best, statistics, rows, cost, after } = found;
  const inner = [from, ...wheres.filter(({ uncounted }) => !uncounted)].map(({ id }) => id);
  const conditions = wheres.flatMap(({ id }) => {
    const condition = joined(question.conjuncts.filter(({ stage }) => stage === id));
    return condition === undefined ? [] : [{ stage: id, condition }];
  });
  const step: ScoredScan = {
    kind: 'scoredScan',
    stages: [from.id, ...wheres.map(({ id }) => id), best.id],
    estimatedRows: rows,
    collection: source.name,
    index: statistics.definition.name,
    expression: best.stage.scores[0]!.expression,
    count: countOf(best),
    effort: found.effort,
    target: best.stage.target?.names,
    conditions,
    inner,
    cost,
  };
  const counted: LineSource[] = [
    ...inner.map((id): LineSource => ({ id, step, counts: id === from.id ? 'read' : 'inner' })),
    { id: best.id, step, counts: 'out' },
  ];
  return { root: layRest(step, after, undefined, context, counted), stages: counted };
}
