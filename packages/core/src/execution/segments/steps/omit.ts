import { once } from '../../../expressions/once.ts';
import type { Segment } from '../../../language/tree.ts';
import type { Omit } from '../../../planner/physical.ts';
import { isPlainOfObjects } from '../../../values/fields.ts';
import type { Json, Value } from '../../../values/json.ts';
import { without } from '../../omitting.ts';
import { nothingSettled, type RowStep } from '../rowStep.ts';
import { emitField, emitRow } from '../writing.ts';

/** The fields at the top that paths lead to go, and what they lead to inside others. */
export const omit: RowStep<Omit> = {
  multiplies: false,
  emit: (loop, { paths }, row, body) => {
    const { emitter } = loop;
    const { whole, under } = cutsOf(paths);
    if (under === undefined) body(emitRow(loop, `${emitter.constant(whole)}(${row.object(emitter)})`));
    else {
      let made = row;
      for (const [name, left] of under) {
        const field = left && `${emitter.constant(left)}(${emitField(loop, made, name)})`;
        made = made.with(name, field === undefined ? 'undefined' : emitter.variable(field));
      }
      body(made);
    }
    return nothingSettled;
  },
};

type Cut = (value: Value) => Value;

/** What takes paths out of a whole row; and, where all begin with plain names, out of what stands under each: nothing for all of it. */
const cutsOf = once((paths: Omit['paths']) => {
  const segments = paths.map((path) => path.segments);
  const whole = (row: Json): Json => without(row, segments);
  const names = segments.map(firstName);
  if (names.includes(undefined)) return { whole, under: undefined };
  const under = new Map<string, Cut | undefined>();
  for (const name of new Set(names as string[])) {
    const own = segments.filter((_, i) => names[i] === name);
    const below = own.map((path) => path.slice(1));
    under.set(name, own.some((path) => path.length === 1) ? undefined : (value) => (value === undefined ? undefined : without(value, below))); // prettier-ignore
  }
  return { whole, under };
});

/** The plain name that a path begins with; undefined where it begins otherwise. */
function firstName(segments: readonly Segment[]): string | undefined {
  const [first] = segments;
  const [selector] = first?.selectors ?? [];
  return selector?.kind === 'name' && first?.selectors.length === 1 && isPlainOfObjects(selector.name) ? selector.name : undefined;
}
