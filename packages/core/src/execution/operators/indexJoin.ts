import { compileCondition, compileValue } from '../../expressions/compile.ts';
import type { IndexJoin } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { Joiner } from '../joining.ts';
import { pulled, type Operator } from '../runtime.ts';

export const indexJoin: Operator<IndexJoin> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter, storeOf, indexOf } = runtime;
  const { match } = step;
  const { documents } = storeOf(step.collection);
  const index = indexOf(step.collection, step.index);
  const leftKey = compileValue(match.leftKeys[0]);
  const isWanted = step.condition && compileCondition(step.condition);
  const joiner = new Joiner(match, meter);
  const { fits } = joiner;
  const found: Json[] = [];
  for (const batch of pulled(step.input, runtime, meter)) {
    const rows: Json[] = [];
    const positions: number[] = [];
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i];
      found.length = 0;
      const places = placesOf(leftKey(row, context), match.leftIsList, (value) => index.positionsOf({ fixed: [value] }));
      meter.indexEntriesRead += places.length;
      for (let at = 0; at < places.length;) {
        const allowed = watch.mayRead(step, places.length - at);
        if (allowed === 0) return;
        runMeter.read(meter, allowed);
        for (const end = at + allowed; at < end; at++) {
          const partner = documents[places[at]];
          if (partner === undefined || (isWanted !== undefined && !isWanted(partner, context))) continue;
          if (fits === undefined || fits(row, partner, context)) found.push(partner);
        }
      }
      joiner.give(row, batch.positions[i], found, rows, positions);
      if ((i & 255) === 255) watch.look(step);
    }
    yield { rows, positions };
  }
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
