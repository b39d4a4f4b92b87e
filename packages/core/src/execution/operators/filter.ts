import { compileCondition } from '../../expressions/compile.ts';
import type { Json } from '../../values/json.ts';
import type { Filter } from '../../planner/physical.ts';
import { pulled, type Operator } from '../runtime.ts';

export const filter: Operator<Filter> = function* (step, runtime, meter) {
  const parts = step.condition.kind === 'and' ? step.condition.operands : [step.condition];
  const tests = parts.map(compileCondition);
  const { context } = runtime;
  const { lookedAt } = meter;
  parts.forEach((_, k) => (lookedAt[k] = 0));
  const holds = (row: Json): boolean => {
    for (let k = 0; k < tests.length; k++) {
      lookedAt[k]!++;
      if (!tests[k]!(row, context)) return false;
    }
    return true;
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    const rows: Json[] = [];
    const positions: number[] = [];
    batch.rows.forEach((row, i) => {
      if (!holds(row)) return;
      rows.push(row);
      positions.push(batch.positions[i]!);
    });
    yield { rows, positions, endsTie: batch.endsTie };
  }
};
