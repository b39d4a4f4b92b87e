import { inputsOf, type PhysicalStep } from '../planner/physical.ts';
import type { Json } from '../values/json.ts';
import { estimateBytes } from '../values/size.ts';

/** The bytes of a row that are the run's own: none where rows are the resident documents themselves. */
export function ownedBytes(step: PhysicalStep): (row: Json) => number {
  if (some(step, deep)) return estimateBytes;
  return some(step, shallow) ? slotBytes : () => 0;
}

/** Rows with values of their own. */
const deep: ReadonlySet<PhysicalStep['kind']> = new Set(['project', 'omit', 'compute', 'group']);
/** Rows that are new, of values that are in memory anyway. */
const shallow: ReadonlySet<PhysicalStep['kind']> = new Set(['unnest', 'hashJoin', 'indexJoin', 'rank']);

/** Whether rows of a step are made by the run. */
export function makesRows(step: PhysicalStep): boolean {
  return some(step, deep) || some(step, shallow);
}

function some(step: PhysicalStep, kinds: ReadonlySet<PhysicalStep['kind']>): boolean {
  // Partners are values of the rows; that they were made shows in the rows that they are in.
  return kinds.has(step.kind) || inputsOf(step).some((input) => some(input, kinds));
}

/** An object's own header and slots. */
function slotBytes(row: Json): number {
  let slots = 0;
  for (const _ in row as object) slots++;
  return 32 + 8 * slots;
}
