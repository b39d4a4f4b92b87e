import { inputsOf, type PhysicalStep } from '../planner/physical.ts';
import type { Json } from '../values/json.ts';
import { estimateBytes } from '../values/size.ts';

/** The bytes of a row that are the run's own: none where rows are the resident documents themselves. */
export function ownedBytes(step: PhysicalStep): (row: Json) => number {
  return makesRows(step) ? estimateBytes : () => 0;
}

/** Whether rows of a step are made by the run. */
export function makesRows(step: PhysicalStep): boolean {
  return step.kind === 'project' || inputsOf(step).some(makesRows);
}
