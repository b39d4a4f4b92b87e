import { compileValue } from '../../expressions/compile.ts';
import { compileGroup, type GroupState, type GroupTally } from '../../expressions/compileGroup.ts';
import type { Site } from '../../expressions/context.ts';
import { printMeasure } from '../../language/stages/group.ts';
import type { Measure } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/grammar/print.ts';
import type { Group } from '../../planner/physical.ts';
import { keyOf, keyOfAll, type MapKey } from '../../values/keys.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { shellBytes, textBytes } from '../../values/size.ts';
import { gatherings, numeric, type Account, type Gathering } from '../aggregating.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { stillWorking } from '../batch.ts';
import { assigned } from './compute.ts';
import { pulled, type Operator } from '../runtime.ts';

const largestBatch = 2_048;
/** Rows, or elements of them, that are taken in before others get their turn. */
const atOnce = 8_192;
/** What a group holds beside its keys and measures: an object with two lists, and its entries in the table and the list of groups. */
const heldPerGroup = 230;
const heldPerKey = 8;
const heldPerMeasure = 8;
/** A key that was put together is kept with the pair of texts that it was made of last. */
const heldPerMadeKey = 32;

interface State extends GroupState {
  readonly gathered: readonly Gathering[];
}

export const group: Operator<Group> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { keys, measures, unnested } = step;
  const accounts = measures.map(({ argument }): Account => ({
    held: 0,
    ownedBy: argument === undefined ? () => 0 : ownedByValue(argument, step.input),
  }));
  const make = measures.map(
    ({ aggregate }, m) =>
      () =>
        gatherings[aggregate](accounts[m]),
  );
  const ownedByKeys = (keys ?? []).map(({ expression }) => ownedByValue(expression, step.input));
  const states: State[] = [];
  const table = new Map<MapKey, State>();
  let bytes = 0;
  const add = (position: number, key: readonly Value[], found: MapKey): State => {
    const state = { position, key, gathered: make.map((one) => one()) };
    states.push(state);
    bytes += heldPerGroup + heldPerMeasure * measures.length;
    for (const { held } of state.gathered) bytes += held;
    key.forEach((value, k) => (bytes += heldPerKey + (value === undefined ? 0 : ownedByKeys[k](value))));
    if (typeof found === 'string' && found !== key[0]) bytes += heldPerMadeKey + textBytes(found);
    return state;
  };
  const held = (): number => accounts.reduce((sum, account) => sum + account.held, bytes);
  const find =
    keys?.length === 1
      ? (position: number, value: Value): State => {
          const key = keyOf(value);
          let state = table.get(key);
          if (state === undefined) table.set(key, (state = add(position, [value], key)));
          return state;
        }
      : (position: number, ...values: Value[]): State => {
          const key = keyOfAll(values);
          let state = table.get(key);
          if (state === undefined) table.set(key, (state = add(position, values, key)));
          return state;
        };
  const kernel = compileGroup({
    keys: (keys ?? []).map(({ expression }) => expression),
    measures: measures.map((measure) => ({
      argument: measure.argument,
      isCondition: measure.aggregate === 'any' || measure.aggregate === 'every',
      numeric: numeric.has(measure.aggregate),
      where: measure.where,
      site: siteOf(measure),
    })),
    unnested,
  });
  // Everything is one group, even where there are no rows.
  if (keys === undefined) find(0);
  const tally: GroupTally = { elements: 0, kept: 0 };
  // Fewer rows at a time where each has many elements.
  let size = 64;
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let from = 0; from < batch.rows.length;) {
      const to = Math.min(batch.rows.length, from + size);
      const before = tally.elements;
      kernel(batch.rows, batch.positions, from, to, find, tally, context);
      const perRow = 1 + (tally.elements - before) / (to - from);
      size = Math.max(1, Math.min(size * 2, Math.floor(atOnce / perRow)));
      from = to;
      runMeter.hold(meter, held() - meter.held);
      watch.look(step);
    }
    yield stillWorking;
  }
  unnested?.lines.forEach((line, i) => meter.inner.set(line, i === 0 ? tally.elements : tally.kept));
  const percentages = measures.map(({ percentage }) => percentage && compileValue(percentage));
  const nothing = (): void => undefined;
  const most = Math.min(largestBatch, runtime.batchRows);
  const ownedByRow = ownedBytes(step);
  for (let from = 0; from < states.length; from += most) {
    const rows: Json[] = [];
    const positions: number[] = [];
    let passed = 0;
    for (const { key, gathered } of states.slice(from, from + most)) {
      let row: Json = {} as JsonObject;
      keys?.forEach(({ target }, k) => {
        row = assigned(row, target, key[k], nothing);
      });
      measures.forEach(({ target }, m) => {
        const percentage = percentages[m]?.({}, context);
        row = assigned(row, target, gathered[m].result(typeof percentage === 'number' ? percentage : 50), nothing);
      });
      rows.push(row);
      positions.push(from + rows.length - 1);
      passed += ownedByRow(row) - shellBytes(row);
    }
    // What a row is made of goes on with it.
    runMeter.hold(meter, -Math.min(passed, meter.held));
    yield { rows, positions };
  }
  runMeter.hold(meter, -meter.held);
};

function siteOf(measure: Measure): Site {
  const { argument, from, to } = measure;
  return { from, to, text: printMeasure(measure), operands: argument === undefined ? [] : [printExpression(argument)] };
}
