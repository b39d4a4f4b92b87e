import type { Site } from '../../../expressions/context.ts';
import { emitValue } from '../../../expressions/emit.ts';
import { once } from '../../../expressions/once.ts';
import type { Assignment } from '../../../language/stages/stage.ts';
import type { Compute } from '../../../planner/physical.ts';
import { variablesOf } from '../loop.ts';
import { nothingSettled, type RowStep } from '../rowStep.ts';
import { emitWrite } from '../writing.ts';

const siteOf = once(({ id, target }: Assignment): Site => ({
  id,
  text: (say) => say.name(target),
  operands: [(say) => say.field(target.slice(0, -1))],
}));

/** Left to right, each seeing those before it. */
export const compute: RowStep<Compute> = {
  multiplies: false,
  emit: (loop, { assignments }, row, body) => {
    let made = row;
    for (const assignment of assignments) {
      const value = emitValue(loop.emitter, assignment.expression, variablesOf(made));
      made = emitWrite(loop, made, assignment.target, value, siteOf(assignment));
    }
    body(made);
    return nothingSettled;
  },
};
