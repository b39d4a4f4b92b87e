import type { PhysicalStep } from '../planner/physical.ts';
import { orderInSteps, type OrderColumn } from '../values/orderInSteps.ts';
import { stillWorking, type Batch } from './batch.ts';
import type { StepMeter } from './meter.ts';
import { heldWhileSorting } from './orderKeys.ts';
import type { Runtime } from './runtime.ts';

/**
 * Puts rows in order by their columns, in steps between which others get their turn and guards and cancel are looked at.
 * What is held is counted while it sorts.
 * @param work how many rows, for which step, and the bytes that are held for each of them while it sorts
 * @returns the places of the rows, in order
 */
export function* sortedInSteps(
  columns: readonly OrderColumn[],
  { count, step, heldEach = heldWhileSorting }: { readonly count: number; readonly step: PhysicalStep; readonly heldEach?: number },
  { watch, meter: runMeter }: Runtime,
  meter: StepMeter,
): Generator<Batch, Uint32Array> {
  runMeter.hold(meter, count * heldEach);
  const sorting = orderInSteps(columns, count);
  for (;;) {
    const { done, value } = sorting.next();
    watch.look(step);
    if (done) {
      runMeter.hold(meter, -count * heldEach);
      return value;
    }
    yield stillWorking;
  }
}
