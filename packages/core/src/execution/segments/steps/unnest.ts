import { emitValue } from '../../../expressions/emit.ts';
import type { Unnest } from '../../../planner/physical.ts';
import { isPlainOfObjects } from '../../../values/fields.ts';
import { variablesOf } from '../loop.ts';
import { nothingSettled, type RowStep } from '../rowStep.ts';
import { emitWrite } from '../writing.ts';

const none: readonly never[] = [];

/** A loop over the elements of a value: a lone value is an array of one; missing and null have none. */
export const unnest: RowStep<Unnest> = {
  multiplies: true,
  emit: (loop, { path, target, position, keepEmpty, used }, row, body) => {
    const { emitter } = loop;
    const value = emitValue(emitter, path, variablesOf(row));
    const list = emitter.variable(`Array.isArray(${value}) ? ${value} : ${value} == null ? ${emitter.constant(none)} : [${value}]`);
    const count = emitter.variable(keepEmpty ? `${list}.length || 1` : `${list}.length`);
    const at = emitter.fresh();
    emitter.block(`for (let ${at} = 0; ${at} < ${count}; ${at}++)`, () => {
      loop.worked();
      const element = emitter.variable(`${list}[${at}]`);
      const kept = used?.every(isPlainOfObjects) && target.length === 1 ? row.only(used) : row;
      const placed = emitWrite(loop, kept, target, element);
      if (position === undefined) body(placed);
      else body(emitWrite(loop, placed, position, keepEmpty ? emitter.variable(`${list}.length === 0 ? undefined : ${at}`) : at));
    });
    return nothingSettled;
  },
};
