import { compileValue } from '../../expressions/compile.ts';
import { compileGroup, type GroupState, type GroupTally } from '../../expressions/compileGroup.ts';
import type { Site } from '../../expressions/context.ts';
import { printMeasure } from '../../language/stages/group.ts';
import type { Measure } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/grammar/print.ts';
import type { Group } from '../../planner/physical.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { estimateBytes } from '../../values/size.ts';
import { gatherings, numeric, type Gathering } from '../aggregating.ts';
import { stillWorking } from '../batch.ts';
import { combinedKeyOf, plainKey, type GroupKey } from '../groupKeys.ts';
import { assigned } from './compute.ts';
import { pulled, type Operator } from '../runtime.ts';

const batchSize = 2_048;
const rowsAtOnce = 1_024;
/** What a group holds beside its keys and measures. */
const heldPerGroup = 120;

interface State extends GroupState {
  readonly gathered: readonly Gathering[];
}

export const group: Operator<Group> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { keys, measures, unnested } = step;
  const make = measures.map(({ aggregate }) => gatherings[aggregate]);
  const states: State[] = [];
  const table = new Map<GroupKey, State>();
  let bytes = 0;
  const add = (position: number, key: readonly Value[]): State => {
    const state = { position, key, gathered: make.map((one) => one()) };
    states.push(state);
    bytes += heldPerGroup + key.reduce<number>((sum, value) => sum + 8 + (typeof value === 'string' ? estimateBytes(value) : 8), 0);
    return state;
  };
  const find =
    keys?.length === 1
      ? (position: number, value: Value): State => {
          const key = plainKey(value);
          let state = table.get(key);
          if (state === undefined) table.set(key, (state = add(position, [value])));
          return state;
        }
      : (position: number, ...values: Value[]): State => {
          const key = combinedKeyOf(values);
          let state = table.get(key);
          if (state === undefined) table.set(key, (state = add(position, values)));
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
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let from = 0; from < batch.rows.length; from += rowsAtOnce) {
      kernel(batch.rows, batch.positions, from, Math.min(batch.rows.length, from + rowsAtOnce), find, tally, context);
      runMeter.hold(meter, heldBy(states, bytes) - meter.held);
      watch.look(step);
    }
    yield stillWorking;
  }
  unnested?.lines.forEach((line, i) => meter.inner.set(line, i === 0 ? tally.elements : tally.kept));
  const percentages = measures.map(({ percentage }) => percentage && compileValue(percentage));
  const nothing = (): void => undefined;
  for (let from = 0; from < states.length; from += batchSize) {
    const rows: Json[] = [];
    const positions: number[] = [];
    for (const { key, gathered } of states.slice(from, from + batchSize)) {
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
    }
    yield { rows, positions };
  }
  runMeter.hold(meter, -meter.held);
};

/** Groups that hold lists are asked how much; there may be many of the others. */
function heldBy(states: readonly State[], bytes: number): number {
  const [first] = states;
  if (first === undefined) return 0;
  const growing = first.gathered.flatMap((gathering, m) =>
    Object.getOwnPropertyDescriptor(Object.getPrototypeOf(gathering), 'held') ? [m] : [],
  );
  const fixed = first.gathered.reduce((sum, gathering, m) => sum + (growing.includes(m) ? 0 : gathering.held), 0);
  let held = bytes + fixed * states.length;
  if (growing.length > 0) for (const { gathered } of states) for (const m of growing) held += gathered[m].held;
  return held;
}

function siteOf(measure: Measure): Site {
  const { argument, from, to } = measure;
  return { from, to, text: printMeasure(measure), operands: argument === undefined ? [] : [printExpression(argument)] };
}
