import { whatIfOthers } from '../paths/others.ts';
import type { BestStage } from '../../language/stages/stage.ts';
import type { Expression } from '../../language/tree.ts';
import type { AskedSource } from '../askedSource.ts';
import { costs } from '../cost.ts';
import type { Insistence } from '../insisting.ts';
import type { LayContext } from '../layers/layer.ts';
import { layRest } from '../layOut.ts';
import { readBest, type ReadBest } from '../layers/readBest.ts';
import { scoringIndex, scoringOf } from '../layers/scoring.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import type { FusedScan, LineSource, PhysicalPlan, ScoredScan } from '../physical.ts';
import type { PlanOptions } from '../planRequest.ts';
import type { PositionsIndex } from '../positionsIndex.ts';
import { joined } from '../conjuncts.ts';

/** One ranking of the best, as an index gives it. */
export interface RankedByIndex {
  readonly expression: Expression;
  readonly weight: number;
  readonly statistics: PositionsIndex;
  /** How many candidates are looked at, where the ranking may be approximate. */
  readonly effort: number | undefined;
  readonly entries: number;
  readonly documentsRead: number;
  readonly rows: number;
}

/** The best by one score or several, right after the conditions, from indexes that know the scores. */
export interface ScoredByIndex {
  /** The best, or an order of which the first few are wanted. */
  readonly stage: PlannedStage;
  readonly count: number;
  readonly target: readonly string[] | undefined;
  readonly rankings: readonly [RankedByIndex, ...RankedByIndex[]];
  readonly depth: number;
  readonly entries: number;
  readonly documentsRead: number;
  readonly rows: number;
  readonly cost: number;
  readonly after: readonly PlannedStage[];
}

/** The best that come right after the conditions. */
export function bestThatFollows(following: readonly PlannedStage[]): PlannedStage<BestStage> | undefined {
  const first = following.find(({ stage }) => stage.kind !== 'mark');
  return isStage(first, 'best') ? first : undefined;
}

interface Wanted {
  readonly stage: PlannedStage;
  readonly read: ReadBest;
  readonly target: readonly string[] | undefined;
  /** Whether rows without a score belong to the answer too. */
  readonly ofAll: boolean;
}

function bestAsked(asked: AskedSource): Wanted | undefined {
  const best = bestThatFollows(asked.following);
  return best && { stage: best, read: readBest(best, asked), target: best.stage.target?.names, ofAll: false };
}

/** An order by one key of which so many rows are wanted: the best by it, where the greatest come first, or by what it lacks. */
function firstOfOrder({ order, question: { demand }, about }: AskedSource): Wanted | undefined {
  const [key, ...more] = order?.stage.keys ?? [];
  if (order === undefined || key === undefined || more.length > 0 || demand === undefined || about !== undefined) return undefined;
  const expression: Expression =
    key.direction === 'desc' ? key.expression : { kind: 'negation', id: key.expression.id, operand: key.expression };
  return {
    stage: order,
    read: { count: demand, scores: [{ expression, weight: 1 }], depth: demand, effort: undefined },
    target: undefined,
    ofAll: true,
  };
}

/** How indexes would give the best, where they can: undefined where a score is known by none. */
export function scoredByIndex(asked: AskedSource, options: PlanOptions, insisted: Insistence): ScoredByIndex | undefined {
  const { source, following, constant } = asked;
  const wanted = bestAsked(asked) ?? firstOfOrder(asked);
  if (wanted === undefined || !insisted.allows('index')) return undefined;
  const allowed = whatIfOthers(source, options).filter(({ definition }) => insisted.allowsIndex(definition.name));
  const { read, stage } = wanted;
  const indexes = read.scores.map(({ expression }) => scoringIndex(allowed, expression));
  if (!indexes.every((index) => index !== undefined)) return undefined;
  const all = { valueOf: constant, documents: source.store.count };
  if (wanted.ofAll && !indexes.every((index, i) => scoringOf(index)?.scoresAll?.(index.index, read.scores[i]!.expression, all))) return undefined;
  const [first, ...more] = read.scores.map((score, i) => rankedBy(asked, score, indexes[i]!, read));
  if (first === undefined) return undefined;
  const rankings = [first, ...more] as const;
  const entries = rankings.reduce((sum, ranking) => sum + ranking.entries, 0);
  const documentsRead = rankings.reduce((sum, ranking) => sum + ranking.documentsRead, 0);
  return {
    stage,
    count: read.count,
    target: wanted.target,
    rankings,
    depth: read.depth,
    entries,
    documentsRead,
    rows: Math.min(read.count, rankings.reduce((sum, ranking) => sum + ranking.rows, 0)),
    cost: costs.start + entries * costs.scoredEntry + documentsRead * costs.fetched,
    after: following.slice(following.indexOf(stage) + 1),
  };
} // prettier-ignore

/** About what one ranking takes: as many documents as there are rows to keep, or places that count. */
function rankedBy({ source, question, selectivity, constant }: AskedSource, { expression, weight }: ReadBest['scores'][number], statistics: PositionsIndex, { count, scores, depth, effort: given }: ReadBest): RankedByIndex {
  const scoring = scoringOf(statistics)!;
  const wanted = scores.length === 1 ? count : depth;
  // A walk finds no more than it looks at.
  const effort = given === undefined || scoring.isApproximate?.(given) !== true ? undefined : Math.max(given, wanted);
  const about = scoring.about(statistics.index, expression, { valueOf: constant, effort });
  const scored = Math.round(about.documents * statistics.scale);
  const share = Math.max(selectivity.of(question.conjuncts), 0.5 / Math.max(1, source.store.count));
  const rows = Math.min(wanted, scored * share);
  return { expression, weight, statistics, effort, entries: Math.round(about.entries * statistics.scale), documentsRead: Math.min(scored, Math.ceil(rows / share)), rows };
} // prettier-ignore

/** Lays what follows upon indexes that give the best by themselves. */
export function planScored({ from, wheres, question, source }: AskedSource, found: ScoredByIndex, context: LayContext): PhysicalPlan {
  const { stage, count, target, rankings, depth, rows, cost, after } = found;
  const inner = [from, ...wheres.filter(({ uncounted }) => !uncounted)].map(({ id }) => id);
  const conditions = wheres.flatMap(({ id }) => {
    const condition = joined(question.conjuncts.filter(({ stage }) => stage === id));
    return condition === undefined ? [] : [{ stage: id, condition }];
  });
  const common = {
    stages: [from.id, ...wheres.map(({ id }) => id), stage.id],
    estimatedRows: rows,
    collection: source.name,
    count,
    target,
    conditions,
    inner,
    cost,
  };
  const ranked = rankings.map(({ statistics, expression, weight, effort }) => ({
    index: statistics.definition.name,
    expression,
    weight,
    effort,
  }));
  const [first, ...more] = ranked;
  const step: ScoredScan | FusedScan =
    more.length === 0
      ? { kind: 'scoredScan', ...common, index: first!.index, expression: first!.expression, effort: first!.effort }
      : { kind: 'fusedScan', ...common, rankings: ranked, depth };
  const counted: LineSource[] = [
    ...inner.map((id): LineSource => ({ id, step, counts: id === from.id ? 'read' : 'inner' })),
    { id: stage.id, step, counts: 'out' },
  ];
  return { root: layRest(step, after, undefined, context, counted), stages: counted };
}
