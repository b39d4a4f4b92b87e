import { emitCondition } from '../../../expressions/emit.ts';
import type { Slots } from '../../../expressions/slots.ts';
import type { Expression } from '../../../language/tree.ts';
import type { Filter } from '../../../planner/physical.ts';
import { variablesOf, type Loop } from '../loop.ts';
import type { RowStep, Settled } from '../rowStep.ts';

export const filter: RowStep<Filter> = {
  multiplies: false,
  emit: (loop, { condition }, row, body) => {
    const settled = emitConditions(loop, condition, row);
    body(row);
    return settled;
  },
};

/** Conditions one after the other, each counted, until one does not hold. */
export function emitConditions(loop: Loop, condition: Expression | undefined, row: Slots): Settled {
  const parts = condition === undefined ? [] : condition.kind === 'and' ? condition.operands : [condition];
  const places = parts.map((part) => {
    const looked = loop.counter();
    loop.emitter.line(`${looked}++;`);
    loop.emitter.line(`if (!(${emitCondition(loop.emitter, part, variablesOf(row))})) continue;`);
    return loop.placeOf(looked);
  });
  return (counts, { lookedAt }) => places.forEach((place, k) => (lookedAt[k] = counts[place]!));
}
