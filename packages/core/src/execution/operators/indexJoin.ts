import { compileCondition, compileValue } from '../../expressions/compile.ts';
import type { IndexJoin } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { joinedWith } from '../joining.ts';
import type { Operator } from '../runtime.ts';
import { orderedIndexOf } from '../orderedIndexOf.ts';

export const indexJoin: Operator<IndexJoin> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter, storeOf } = runtime;
  const { match } = step;
  const { documents } = storeOf(step.collection);
  const index = orderedIndexOf(runtime, step.collection, step.index);
  const leftKey = compileValue(match.leftKeys[0]!);
  const isWanted = step.condition && compileCondition(step.condition);
  yield* joinedWith(step, runtime, meter, {
    candidates: (row: Json) => {
      const places = placesOf(leftKey(row, context), match.leftIsList, (value) => index.positionsOf({ fixed: [value] }));
      meter.indexEntriesRead += places.length;
      return places;
    },
    allowed: (wanted) => {
      const allowed = watch.mayRead(step, wanted);
      runMeter.read(meter, allowed);
      return allowed;
    },
    partner: (place) => {
      const partner = documents[place];
      return partner !== undefined && (isWanted === undefined || isWanted(partner, context)) ? partner : undefined;
    },
  });
};

/** Where the partners of a value stand, in insertion order, each once. Missing and null have none. */
function placesOf(value: Value, isList: boolean, positionsOf: (value: Value) => readonly number[]): readonly number[] {
  if (value === undefined || value === null) return [];
  if (!isList) return ascending(positionsOf(value));
  if (!Array.isArray(value)) return [];
  const places = new Set<number>();
  for (const item of value) if (item !== null) for (const place of positionsOf(item)) places.add(place);
  return [...places].sort((a, b) => a - b);
}

/** One document may have several entries under a key, where the key is of an array's elements. */
function ascending(places: readonly number[]): readonly number[] {
  if (places.length < 2) return places;
  return [...new Set(places)].sort((a, b) => a - b);
}
