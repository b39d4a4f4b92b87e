import type { Omit } from '../../planner/physical.ts';
import { without } from '../omitting.ts';
import { pulled, type Operator } from '../runtime.ts';

export const omit: Operator<Omit> = function* (step, runtime, meter) {
  const paths = step.paths.map(({ segments }) => segments);
  for (const batch of pulled(step.input, runtime, meter)) {
    yield { rows: batch.rows.map((row) => without(row, paths)), positions: batch.positions };
  }
};
