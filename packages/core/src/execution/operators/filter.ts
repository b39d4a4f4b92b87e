import { compileCondition } from '../../expressions/compile.ts';
import type { Json } from '../../values/json.ts';
import type { Filter } from '../../planner/physical.ts';
import { pulled, type Operator } from '../runtime.ts';

export const filter: Operator<Filter> = function* (step, runtime, meter) {
  const holds = compileCondition(step.condition);
  const { context } = runtime;
  for (const batch of pulled(step.input, runtime, meter)) {
    const rows: Json[] = [];
    const positions: number[] = [];
    batch.rows.forEach((row, i) => {
      if (!holds(row, context)) return;
      rows.push(row);
      positions.push(batch.positions[i]);
    });
    yield { rows, positions };
  }
};
