import type { Segment } from '../../language/tree.ts';
import type { Omit } from '../../planner/physical.ts';
import { writeField } from '../../values/fields.ts';
import { isObject, type Json, type JsonObject } from '../../values/json.ts';
import { pulled, type Operator } from '../runtime.ts';

export const omit: Operator<Omit> = function* (step, runtime, meter) {
  const paths = step.paths.map(({ segments }) => segments);
  for (const batch of pulled(step.input, runtime, meter)) {
    yield {
      rows: batch.rows.map((row) => paths.reduce<Json>((left, segments) => without(left, segments, 0), row)),
      positions: batch.positions,
    };
  }
};

/** A copy of the value without what a path leads to; the value itself where that is nothing. */
export function without(value: Json, segments: readonly Segment[], at: number): Json {
  const [selector] = segments[at].selectors;
  const isLast = at === segments.length - 1;
  if (Array.isArray(value)) {
    const fits = (i: number) =>
      selector.kind === 'wildcard' ||
      (selector.kind === 'index' && i === (selector.index < 0 ? value.length + selector.index : selector.index));
    return isLast ? value.filter((_, i) => !fits(i)) : value.map((item, i) => (fits(i) ? without(item, segments, at + 1) : item));
  }
  if (!isObject(value)) return value;
  if (selector.kind === 'name' && !Object.hasOwn(value, selector.name)) return value;
  const copy: JsonObject = {};
  for (const name of Object.keys(value)) {
    const fits = selector.kind === 'wildcard' || (selector.kind === 'name' && name === selector.name);
    if (!fits) writeField(copy, name, value[name]);
    else if (!isLast) writeField(copy, name, without(value[name], segments, at + 1));
  }
  return copy;
}
