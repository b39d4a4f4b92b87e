import type { Site } from '../../expressions/context.ts';
import { emitCondition, emitValue } from '../../expressions/emit.ts';
import type { Atom, Variables } from '../../expressions/emitter.ts';
import { once } from '../../expressions/once.ts';
import type { Measure } from '../../language/stages/stage.ts';
import type { Group } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { numeric } from '../groups/columns.ts';
import type { StepMeter } from '../meter.ts';
import { compileSegment, type CompiledSegment } from './compileSegment.ts';
import { emitElements, type Elements } from './elements.ts';
import { variablesOf, type Loop } from './loop.ts';
import type { Segment } from './segment.ts';

/** `find` gives the number of a group by the values of its keys, and `columns` are of a measure each. */
export interface GroupsToFill {
  readonly find: (...key: Value[]) => number;
  readonly columns: readonly { add(group: number, value: Json): void }[];
}

export interface CompiledGroup {
  readonly compiled: CompiledSegment<GroupsToFill>;
  /** Tells how many elements were taken apart and kept, where the group takes an array apart itself. */
  readonly settle: (counts: Float64Array, meter: StepMeter) => void;
}

const made = new WeakMap<Segment, CompiledGroup>();

/** A loop that takes its rows into groups: keys and measures inside it, and the elements of an array where one is taken apart. */
export function compiledGroup(step: Group, segment: Segment): CompiledGroup {
  let found = made.get(segment);
  if (found === undefined) made.set(segment, (found = compileGroup(step, segment)));
  return found;
}

function compileGroup(step: Group, segment: Segment): CompiledGroup {
  const { measures, unnested } = step;
  let places = { elements: -1, kept: -1 };
  const columns = measures.map((_, m) => `const column${m} = columns[${m}];`).join(' ');
  const compiled = compileSegment<GroupsToFill>(segment, {
    prepare: `const { find, columns } = into; ${columns}`,
    emit: (loop, row) => {
      const { emitter } = loop;
      const plain = variablesOf(row);
      if (unnested === undefined) {
        emitGrouped(loop, step, plain);
        return;
      }
      const [elements, kept] = [loop.counter(), loop.counter()];
      places = { elements: loop.placeOf(elements), kept: loop.placeOf(kept) };
      const value = emitValue(emitter, unnested.path, plain);
      const taken = ({ element }: Elements): void => {
        const variables = variablesOf(row, new Map([[unnested.element, element]]));
        if (unnested.condition !== undefined) emitter.line(`if (!(${emitCondition(emitter, unnested.condition, variables)})) continue;`);
        emitter.line(`${kept}++;`);
        emitGrouped(loop, step, variables);
      };
      emitElements(loop, value, unnested.keepEmpty, taken, (count) => emitter.line(`${elements} += ${count};`));
    },
  });
  const settle = (counts: Float64Array, { inner }: StepMeter): void => {
    unnested?.stages.forEach((stage, i) => inner.set(stage, counts[i === 0 ? places.elements : places.kept]!));
  };
  return { compiled, settle };
}

function emitGrouped(loop: Loop, { keys = [], measures }: Group, variables: Variables): void {
  const values = keys.map(({ expression }) => emitValue(loop.emitter, expression, variables));
  const group = loop.emitter.variable(`find(${values.join(', ')})`);
  measures.forEach((measure, m) => emitMeasure(loop, measure, { column: `column${m}`, group }, variables));
}

function emitMeasure(
  { emitter }: Loop,
  measure: Measure,
  { column, group }: { readonly column: string; readonly group: Atom },
  variables: Variables,
): void {
  const { argument, aggregate, where, kept } = measure;
  if (kept !== undefined) {
    emitter.line(`${column}.addKept(${group}, ${emitValue(emitter, argument!, variables)}, ${kept});`);
    return;
  }
  // Up to where the value stands.
  const gather = `${column}.add(${group}, `;
  const add = (): void => {
    if (argument === undefined) emitter.line(`${gather}true);`);
    else if (aggregate === 'any' || aggregate === 'every') emitter.line(`${gather}${emitCondition(emitter, argument, variables)});`);
    else addValue(emitValue(emitter, argument, variables));
  };
  const addValue = (value: Atom): void => {
    if (!numeric.has(aggregate)) {
      emitter.line(`if (${value} != null) ${gather}${value});`);
      return;
    }
    const note = `context.misfits.note(${emitter.constant(siteOf(measure))}, 0, ${value})`;
    emitter.line(`if (typeof ${value} === 'number') ${gather}${value}); else if (${value} != null) ${note};`);
  };
  emitter.block(where === undefined ? '' : `if (${emitCondition(emitter, where, variables)})`, add);
}

const siteOf = once((measure: Measure): Site => ({
  id: measure.id,
  text: (say) => say.measure(measure),
  operands: measure.argument === undefined ? [] : [(say) => say.expression(measure.argument!)],
}));
