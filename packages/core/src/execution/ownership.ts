import { inputsOf, type PhysicalStep } from '../planner/physical.ts';
import type { Json } from '../values/json.ts';
import { estimateBytes } from '../values/size.ts';

/** The bytes of a row that are the run's own: none where rows are the resident documents themselves. */
export function ownedBytes(step: PhysicalStep): (row: Json) => number {
  return makesRows(step) ? estimateBytes : () => 0;
}

const makers: ReadonlySet<PhysicalStep['kind']> = new Set(['project', 'omit', 'compute']);

/** Whether rows of a step are made by the run. */
export function makesRows(step: PhysicalStep): boolean {
  return makers.has(step.kind) || inputsOf(step).some(makesRows);
}
