import type { PhysicalStep, StepKind } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';
import { fullScan } from './fullScan.ts';
import { rowsOfSegment } from '../segments/rowsEnd.ts';
import type { Segments } from '../segments/segment.ts';
import { isRowStep, type RowStepKind } from '../segments/steps/registry.ts';
import { groupOfSegment } from './group.ts';
import { indexJoin } from './indexJoin.ts';
import { rank } from './rank.ts';
import { indexAggregate } from './indexAggregate.ts';
import { indexScan } from './indexScan.ts';
import { indexSetScan } from './indexSetScan.ts';
import { partialSort } from './partialSort.ts';
import { positionsScan } from './positionsScan.ts';
import { limit, offset } from './rowCount.ts';
import { sample } from './sample.ts';
import { sort } from './sort.ts';
import { topNSort } from './topNSort.ts';

/** Steps whose rows are one loop with what is below them have no operator of their own. */
type OwnKind = Exclude<StepKind, RowStepKind | 'group'>;
type Registry = { readonly [K in OwnKind]: Operator<Extract<PhysicalStep, { kind: K }>> };

const operators: Registry = {
  fullScan,
  indexScan,
  indexSetScan,
  positionsScan,
  indexAggregate,
  sort,
  partialSort,
  topNSort,
  offset,
  limit,
  sample,
  indexJoin,
  rank,
};

/** The operator of a step; the registry's type has paired them already. */
export function operatorOf(step: PhysicalStep, segments: Segments): Operator<PhysicalStep> {
  if (step.kind !== 'group' && !isRowStep(step)) return operators[step.kind] as unknown as Operator<PhysicalStep>;
  const segment = segments.get(step);
  if (segment === undefined) throw new Error(`${step.kind} stands in no segment`);
  return step.kind === 'group' ? (groupOfSegment(segment) as Operator<PhysicalStep>) : rowsOfSegment(segment);
}
