import type { PhysicalStep, StepKind } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';
import { filter } from './filter.ts';
import { fullScan } from './fullScan.ts';
import { indexScan } from './indexScan.ts';
import { project } from './project.ts';
import { limit, offset } from './rowCount.ts';
import { sort } from './sort.ts';
import { topNSort } from './topNSort.ts';

type Registry = { readonly [K in StepKind]: Operator<Extract<PhysicalStep, { kind: K }>> };

const operators: Registry = { fullScan, indexScan, filter, project, sort, topNSort, offset, limit };

/** The operator of a step's kind; the registry's type has paired them already. */
export function operatorOf(kind: StepKind): Operator<PhysicalStep> {
  return operators[kind] as unknown as Operator<PhysicalStep>;
}
