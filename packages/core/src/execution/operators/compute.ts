import type { Several } from '../../values/several.ts';
import { compileValue } from '../../expressions/compile.ts';
import type { Site } from '../../expressions/context.ts';
import type { Compute } from '../../planner/physical.ts';
import { copyOf, readField, writeField } from '../../values/fields.ts';
import { isObject, type Json, type Value } from '../../values/json.ts';
import { pulled, type Operator } from '../runtime.ts';

export const compute: Operator<Compute> = function* (step, runtime, meter) {
  const { context } = runtime;
  const assignments = step.assignments.map(({ target, expression, id }) => {
    const site: Site = { id, text: (say) => say.name(target), operands: [(say) => say.field(target.slice(0, -1))] };
    return { target, evaluate: compileValue(expression), misplaced: (value: Value) => void context.misfits.note(site, 0, value) };
  });
  const shape = (row: Json): Json =>
    assignments.reduce((at, { target, evaluate, misplaced }) => assigned(at, target, evaluate(at, context), misplaced), row);
  for (const batch of pulled(step.input, runtime, meter)) yield { rows: batch.rows.map(shape), positions: batch.positions };
};

/**
 * A copy of a row with a value at a chain of names, or without it where the value is nothing. Where the chain leads
 * through a value that is no object, the row is left alone.
 */
export function assigned(row: Json, names: readonly string[], value: Value, misplaced: (found: Value) => void): Json {
  const [first, ...rest] = names as Several<string>;
  if (!isObject(row)) {
    misplaced(row);
    return row;
  }
  let next: Value = value;
  if (rest.length > 0) {
    const below = readField(row, first);
    if (below === undefined && value === undefined) return row;
    if (below !== undefined && !isObject(below)) {
      misplaced(below);
      return row;
    }
    next = assigned(below ?? {}, rest, value, misplaced);
    if (next === below) return row;
  }
  const copy = copyOf(row);
  if (next === undefined) delete copy[first];
  else writeField(copy, first, next);
  return copy;
}
