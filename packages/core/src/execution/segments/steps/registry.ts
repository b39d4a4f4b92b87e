import type { PhysicalStep } from '../../../planner/physical.ts';
import type { RowStep } from '../rowStep.ts';
import { compute } from './compute.ts';
import { filter } from './filter.ts';
import { hashJoin } from './hashJoin.ts';
import { omit } from './omit.ts';
import { project } from './project.ts';
import { unnest } from './unnest.ts';

/** The steps that take rows one at a time, so that they can stand in a loop with others. */
const rowSteps = { filter, compute, project, omit, unnest, hashJoin };

export type RowStepKind = keyof typeof rowSteps;
export type RowStepOf = Extract<PhysicalStep, { kind: RowStepKind }>;

export function isRowStep(step: PhysicalStep): step is RowStepOf {
  return Object.hasOwn(rowSteps, step.kind);
}

/** How a step is written; the record has paired each kind with its own. */
export function rowStepOf(step: RowStepOf): RowStep<RowStepOf> {
  return rowSteps[step.kind] as unknown as RowStep<RowStepOf>;
}
