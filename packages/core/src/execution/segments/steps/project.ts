import { emitValue } from '../../../expressions/emit.ts';
import { once } from '../../../expressions/once.ts';
import { Slots } from '../../../expressions/slots.ts';
import type { Project } from '../../../planner/physical.ts';
import { isPlainOfObjects, readField, writeField } from '../../../values/fields.ts';
import { isObject, type Json, type JsonObject, type Value } from '../../../values/json.ts';
import { variablesOf } from '../loop.ts';
import { nothingSettled, type RowStep } from '../rowStep.ts';
import { emitRow } from '../writing.ts';

/** A row of the items alone. Those that begin with one name are put into one object there. */
export const project: RowStep<Project> = {
  multiplies: false,
  emit: (loop, { items }, row, body) => {
    const { emitter } = loop;
    const values = items.map(({ expression }) => emitValue(emitter, expression, variablesOf(row)));
    const names = [...new Set(items.map(({ target }) => target[0]!))];
    const makers = makersOf(items);
    if (!names.every(isPlainOfObjects)) {
      body(emitRow(loop, `${emitter.constant(makers.whole)}(${values.join(', ')})`));
      return nothingSettled;
    }
    const fields = names.map((name) => {
      const own = items.flatMap(({ target }, i) => (target[0] === name ? [{ target, value: values[i]! }] : []));
      const [first] = own;
      if (own.length === 1 && first!.target.length === 1) return { name, value: first!.value };
      const make = emitter.constant(makers.under.get(name));
      return { name, value: emitter.variable(`${make}(${own.map(({ value }) => value).join(', ')})`) };
    });
    body(Slots.made(fields));
    return nothingSettled;
  },
};

/** What makes a row of the values of items, and what stands under each of its names of those that begin with it. */
const makersOf = once((items: Project['items']) => {
  const targets = items.map(({ target }) => target);
  const under = new Map<string, (...values: Value[]) => Value>();
  for (const name of new Set(targets.map(([first]) => first!))) {
    const own = targets.filter(([first]) => first === name);
    under.set(name, (...values) => readField(madeOf(own, values), name));
  }
  return { whole: (...values: Value[]) => madeOf(targets, values), under };
});

/** An object with values at their chains of names, in the order given; without those that are nothing. */
function madeOf(targets: readonly (readonly string[])[], values: readonly Value[]): JsonObject {
  const made: JsonObject = {};
  values.forEach((value, i) => {
    if (value !== undefined) putAt(made, targets[i]!, value);
  });
  return made;
}

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
