import { compileValue } from '../../expressions/compile.ts';
import type { Project } from '../../planner/physical.ts';
import { isObject, type Json, type JsonObject, type Value } from '../../values/json.ts';
import { readField, writeField } from '../../values/fields.ts';
import { pulled, type Operator } from '../runtime.ts';

export const project: Operator<Project> = function* (step, runtime, meter) {
  const { context } = runtime;
  const items = step.items.map(({ expression, target }) => ({ evaluate: compileValue(expression), target }));
  const shape = (row: Json): Json => {
    const made: JsonObject = {};
    for (const { evaluate, target } of items) {
      const value = evaluate(row, context);
      if (value !== undefined) putAt(made, target, value);
    }
    return made;
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    yield batch.rows.length === 0 ? batch : { rows: batch.rows.map(shape), positions: batch.positions };
  }
};

/** Puts a value at a chain of names, making the objects on the way; they are new, so they may be written to. */
function putAt(owner: JsonObject, names: readonly string[], value: Json): void {
  let at = owner;
  for (const name of names.slice(0, -1)) {
    const below: Value = readField(at, name);
    const next: JsonObject = isObject(below) ? below : {};
    if (next !== below) writeField(at, name, next);
    at = next;
  }
  writeField(at, names[names.length - 1]!, value);
}
