import { emitValue } from '../../../expressions/emit.ts';
import type { Unnest } from '../../../planner/physical.ts';
import { isPlainOfObjects } from '../../../values/fields.ts';
import { emitElements } from '../elements.ts';
import { variablesOf } from '../loop.ts';
import { nothingSettled, type RowStep } from '../rowStep.ts';
import { emitWrite } from '../writing.ts';

/** A loop over the elements of a value: a lone value is an array of one; missing and null have none. */
export const unnest: RowStep<Unnest> = {
  multiplies: true,
  emit: (loop, { path, target, position, keepEmpty, used }, row, body) => {
    const { emitter } = loop;
    const value = emitValue(emitter, path, variablesOf(row));
    emitElements(loop, value, keepEmpty, ({ list, at, element }) => {
      const kept = used?.every(isPlainOfObjects) && target.length === 1 ? row.only(used) : row;
      const placed = emitWrite(loop, kept, target, element);
      if (position === undefined) body(placed);
      else body(emitWrite(loop, placed, position, keepEmpty ? emitter.variable(`${list}.length === 0 ? undefined : ${at}`) : at));
    });
    return nothingSettled;
  },
};
