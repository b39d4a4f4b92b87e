import type { PhysicalStep, StepKind } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';
import { best } from './best.ts';
import { countWords } from './countWords.ts';
import { fullScan } from './fullScan.ts';
import { rowsOfSegment } from '../segments/rowsEnd.ts';
import { isEnd, type EndStep, type Segment, type Segments } from '../segments/segment.ts';
import type { RowStepKind } from '../segments/steps/registry.ts';
import { groupOfSegment } from './group.ts';
import { indexJoin } from './indexJoin.ts';
import { rankAll as rank } from './rankAll.ts';
import { bestOfSegment } from './rankBest.ts';
import { indexAggregate } from './indexAggregate.ts';
import { indexScan } from './indexScan.ts';
import { indexSetScan } from './indexSetScan.ts';
import { partialSort } from './partialSort.ts';
import { positionsScan } from './positionsScan.ts';
import { fusedScan } from './fusedScan.ts';
import { scoredScan } from './scoredScan.ts';
import { limit, offset } from './rowCount.ts';
import { sample } from './sample.ts';
import { sort } from './sort.ts';
import { topNOfSegment } from './topNSort.ts';

/** Steps whose rows are one loop with what is below them have no operator of their own. */
type OwnKind = Exclude<StepKind, RowStepKind | 'group' | 'topNSort'>;
type Registry = { readonly [K in OwnKind]: Operator<Extract<PhysicalStep, { kind: K }>> };

const operators: Registry = {
  fullScan,
  indexScan,
  indexSetScan,
  positionsScan,
  scoredScan,
  fusedScan,
  indexAggregate,
  sort,
  partialSort,
  offset,
  limit,
  sample,
  best,
  countWords,
  indexJoin,
  rank,
};

/** Those whose rows come out of a loop. */
function ofSegment(step: PhysicalStep, segment: Segment): Operator<PhysicalStep> {
  if (!isEnd(step)) return rowsOfSegment(segment);
  const ends: { readonly [K in EndStep['kind']]: Operator<Extract<EndStep, { kind: K }>> } = {
    group: groupOfSegment(segment),
    topNSort: topNOfSegment(segment),
    rank: bestOfSegment(segment),
  };
  return ends[step.kind] as unknown as Operator<PhysicalStep>;
}

/** The operator of a step; the registry's type has paired them already. */
export function operatorOf(step: PhysicalStep, segments: Segments): Operator<PhysicalStep> {
  const segment = segments.get(step);
  if (segment !== undefined) return ofSegment(step, segment);
  return operators[step.kind as OwnKind] as unknown as Operator<PhysicalStep>;
}
