import type { Json, Value } from '../../values/json.ts';
import type { Sort } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { byPosition, heldPerKey, heldPerRow, isAscending, OrderReader } from '../orderKeys.ts';
import { pulled, type Operator } from '../runtime.ts';
import { sortedInSteps } from '../sorting.ts';
import { makesRows, ownedBytes, ownedByValue } from '../ownership.ts';

const largestBatch = 2_048;

export const sort: Operator<Sort> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const columns: Value[][] = step.keys.map(() => []);
  const rows: Json[] = [];
  const positions: number[] = [];
  const ownedByRow = makesRows(step.input) ? ownedBytes(step.input) : undefined;
  const ownedByKeys = step.keys.map(({ expression }) => ownedByValue(expression, step.input));
  const isComputed = step.keys.map(({ expression }) => expression.kind !== 'path');
  for (const batch of pulled(step.input, runtime, meter)) {
    let bytes = batch.rows.length * (heldPerRow + heldPerKey * columns.length);
    for (let i = 0; i < batch.rows.length; i++) {
      rows.push(batch.rows[i]!);
      positions.push(batch.positions[i]!);
      if (ownedByRow !== undefined) bytes += ownedByRow(batch.rows[i]!);
    }
    reader.evaluators.forEach((evaluate, k) => {
      const column = columns[k]!;
      for (const row of batch.rows) column.push(evaluate(row, context));
      if (!isComputed[k]) return;
      for (let i = rows.length - batch.rows.length; i < rows.length; i++) {
        const value = column[i];
        if (value !== undefined) bytes += ownedByKeys[k]!(value);
      }
    });
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  const keyed = step.keys.map(({ direction, nulls }, k) => ({ values: columns[k]!, direction, nulls }));
  const order = yield* sortedInSteps(
    isAscending(positions) ? keyed : [...keyed, byPosition(positions)],
    { count: rows.length, step },
    runtime,
    meter,
  );
  const most = Math.min(largestBatch, runtime.batchRows);
  for (let from = 0; from < order.length; from += most) {
    const size = Math.min(order.length - from, most);
    const batch = { rows: new Array<Json>(size), positions: new Array<number>(size) };
    for (let i = 0; i < size; i++) {
      const row = order[from + i]!;
      batch.rows[i] = rows[row]!;
      batch.positions[i] = positions[row]!;
    }
    // What a row is made of goes on with it.
    if (ownedByRow !== undefined) runMeter.hold(meter, -batch.rows.reduce<number>((sum, row) => sum + ownedByRow(row), 0));
    yield batch;
  }
  runMeter.hold(meter, -meter.held);
};
