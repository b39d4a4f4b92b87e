import type { Limit, Offset } from '../../planner/physical.ts';
import { pulled, type Operator } from '../runtime.ts';

export const offset: Operator<Offset> = function* (step, runtime, meter) {
  let left = step.count;
  for (const batch of pulled(step.input, runtime, meter)) {
    const skipped = Math.min(left, batch.rows.length);
    left -= skipped;
    yield skipped === 0 ? batch : { rows: batch.rows.slice(skipped), positions: batch.positions.slice(skipped) };
  }
};

export const limit: Operator<Limit> = function* (step, runtime, meter) {
  let left = step.count;
  if (left === 0) return;
  for (const batch of pulled(step.input, runtime, meter)) {
    const taken = Math.min(left, batch.rows.length);
    left -= taken;
    yield taken === batch.rows.length ? batch : { rows: batch.rows.slice(0, taken), positions: batch.positions.slice(0, taken) };
    if (left === 0) return;
  }
};
