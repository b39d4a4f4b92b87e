import type { PartialSort } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking, type Batch } from '../batch.ts';
import { byPosition, heldPerKey, heldPerRow, heldWhileSorting, isAscending, OrderReader } from '../orderKeys.ts';
import { makesRows, ownedBytes } from '../ownership.ts';
import { pulled, type Operator } from '../runtime.ts';
import { sortedInSteps } from '../sorting.ts';

/** Up to so many rows that tie are compared with each other; more are sorted by their columns. */
const few = 16;

/** Holds the rows that tie on the given keys alone, and lets them go as soon as a row comes that does not. */
// eslint-disable-next-line max-lines-per-function -- what is held between two batches is shared by its steps
export const partialSort: Operator<PartialSort> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const given = new OrderReader(step.given);
  const left = new OrderReader(step.left);
  const bytesOf = makesRows(step.input) ? ownedBytes(step.input) : undefined;
  const ordered = function* (rows: readonly Json[], positions: readonly number[]): Generator<Batch, Iterable<number>> {
    const columns = left.evaluators.map((evaluate) => rows.map((row) => evaluate(row, context)));
    if (rows.length > few) {
      const keyed = left.keys.map(({ direction, nulls }, k) => ({ values: columns[k]!, direction, nulls }));
      const ordering = isAscending(positions) ? keyed : [...keyed, byPosition(positions)];
      return yield* sortedInSteps(
        ordering,
        { count: rows.length, step, heldEach: heldPerKey * columns.length + heldWhileSorting },
        runtime,
        meter,
      );
    }
    return rows
      .map((_, i) => i)
      .sort((a, b) => {
        for (let k = 0; k < columns.length; k++) {
          const order = left.compare(k, columns[k]![a], columns[k]![b]);
          if (order !== 0) return order;
        }
        return positions[a]! - positions[b]!;
      });
  };

  let held: Json[] = [];
  let places: number[] = [];
  const last: Value[] = step.given.map(() => undefined);
  for (const batch of pulled(step.input, runtime, meter)) {
    const rows: Json[] = [];
    const positions: number[] = [];
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i]!;
      let ties = held.length > 0;
      for (let k = 0; k < last.length; k++) {
        const value = given.evaluators[k]!(row, context);
        ties &&= given.compare(k, last[k], value) === 0;
        last[k] = value;
      }
      if (!ties) yield* giveOut(rows, positions);
      held.push(row);
      places.push(batch.positions[i]!);
    }
    runMeter.hold(meter, bytesHeld() - meter.held);
    watch.look(step);
    if (batch.endsTie && held.length > 0) {
      yield* giveOut(rows, positions);
      runMeter.hold(meter, bytesHeld() - meter.held);
    }
    yield rows.length > 0 ? { rows, positions } : stillWorking;
  }
  const rows: Json[] = [];
  const positions: number[] = [];
  yield* giveOut(rows, positions);
  yield { rows, positions };
  runMeter.hold(meter, -meter.held);

  function* giveOut(rows: Json[], positions: number[]): Generator<Batch> {
    for (const i of held.length > 1 ? yield* ordered(held, places) : held.keys()) {
      rows.push(held[i]!);
      positions.push(places[i]!);
    }
    held = [];
    places = [];
  }

  /** Of the rows that tie, and of the keys by which they are going to be sorted. */
  function bytesHeld(): number {
    let bytes = held.length * heldPerRow;
    if (bytesOf !== undefined) for (const row of held) bytes += bytesOf(row);
    return bytes;
  }
};
