import type { PhysicalStep, StepKind } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';
import { compute } from './compute.ts';
import { filter } from './filter.ts';
import { fullScan } from './fullScan.ts';
import { group } from './group.ts';
import { hashJoin } from './hashJoin.ts';
import { indexJoin } from './indexJoin.ts';
import { rank } from './rank.ts';
import { unnest } from './unnest.ts';
import { indexAggregate } from './indexAggregate.ts';
import { indexScan } from './indexScan.ts';
import { indexSetScan } from './indexSetScan.ts';
import { omit } from './omit.ts';
import { partialSort } from './partialSort.ts';
import { positionsScan } from './positionsScan.ts';
import { project } from './project.ts';
import { limit, offset } from './rowCount.ts';
import { sample } from './sample.ts';
import { sort } from './sort.ts';
import { topNSort } from './topNSort.ts';

type Registry = { readonly [K in StepKind]: Operator<Extract<PhysicalStep, { kind: K }>> };

const operators: Registry = {
  fullScan,
  indexScan,
  indexSetScan,
  positionsScan,
  indexAggregate,
  filter,
  project,
  omit,
  compute,
  sort,
  partialSort,
  topNSort,
  offset,
  limit,
  sample,
  unnest,
  hashJoin,
  indexJoin,
  group,
  rank,
};

/** The operator of a step's kind; the registry's type has paired them already. */
export function operatorOf(kind: StepKind): Operator<PhysicalStep> {
  return operators[kind] as unknown as Operator<PhysicalStep>;
}
