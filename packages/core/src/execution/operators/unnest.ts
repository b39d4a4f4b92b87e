import { compileValue } from '../../expressions/compile.ts';
import type { Unnest } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { placeAt } from '../placing.ts';
import { pulled, type Operator } from '../runtime.ts';

const largestBatch = 4_096;

/** The elements of a value: a lone value is an array of one; missing and null have none. */
export function elementsOf(value: Value): readonly Json[] {
  if (Array.isArray(value)) return value;
  return value === undefined || value === null ? [] : [value];
}

export const unnest: Operator<Unnest> = function* (step, runtime, meter) {
  const { context, watch } = runtime;
  const most = Math.min(largestBatch, runtime.batchRows);
  const read = compileValue(step.path);
  const place = placeAt(step.target, step.used);
  const placePosition = step.position && placeAt(step.position);
  const withElement = (row: Json, element: Value, at: number | undefined) => {
    const made = place(row, element);
    return placePosition === undefined ? made : placePosition(made, at);
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    let rows: Json[] = [];
    let positions: number[] = [];
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i]!;
      const elements = elementsOf(read(row, context));
      if (elements.length === 0 && step.keepEmpty) {
        rows.push(withElement(row, undefined, undefined));
        positions.push(batch.positions[i]!);
      }
      for (let k = 0; k < elements.length; k++) {
        rows.push(withElement(row, elements[k], k));
        positions.push(batch.positions[i]!);
        if (rows.length < most) continue;
        watch.look(step);
        yield { rows, positions };
        rows = [];
        positions = [];
      }
    }
    yield { rows, positions };
  }
};
