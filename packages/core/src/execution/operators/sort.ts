import type { Json, Value } from '../../values/json.ts';
import { orderInSteps } from '../../values/orderInSteps.ts';
import type { Sort } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { byPosition, heldByKey, heldPerRow, isAscending, OrderReader } from '../orderKeys.ts';
import { pulled, type Operator } from '../runtime.ts';
import { makesRows, ownedBytes } from '../ownership.ts';

const batchSize = 2_048;

export const sort: Operator<Sort> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const columns: Value[][] = step.keys.map(() => []);
  const rows: Json[] = [];
  const positions: number[] = [];
  const computed = step.keys.map(({ expression }) => expression.kind !== 'path');
  const bytesOf = ownedBytes(step.input);
  const isPlain = !computed.includes(true) && !makesRows(step.input);
  for (const batch of pulled(step.input, runtime, meter)) {
    let bytes = batch.rows.length * (heldPerRow + 8 * columns.length);
    for (let i = 0; i < batch.rows.length; i++) {
      rows.push(batch.rows[i]);
      positions.push(batch.positions[i]);
    }
    reader.evaluators.forEach((evaluate, k) => {
      const column = columns[k];
      for (const row of batch.rows) column.push(evaluate(row, context));
    });
    if (!isPlain) {
      const from = rows.length - batch.rows.length;
      for (let i = from; i < rows.length; i++) {
        bytes += bytesOf(rows[i]);
        for (let k = 0; k < columns.length; k++) bytes += heldByKey(columns[k][i], computed[k]) - 8;
      }
    }
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  const keyed = step.keys.map(({ direction, nulls }, k) => ({ values: columns[k], direction, nulls }));
  const sorting = orderInSteps(isAscending(positions) ? keyed : [...keyed, byPosition(positions)], rows.length);
  let sorted = sorting.next();
  for (; !sorted.done; sorted = sorting.next()) {
    watch.look(step);
    yield stillWorking;
  }
  const order = sorted.value;
  for (let from = 0; from < order.length; from += batchSize) {
    const size = Math.min(order.length - from, batchSize);
    const batch = { rows: new Array<Json>(size), positions: new Array<number>(size) };
    for (let i = 0; i < size; i++) {
      const row = order[from + i];
      batch.rows[i] = rows[row];
      batch.positions[i] = positions[row];
    }
    yield batch;
  }
  runMeter.hold(meter, -meter.held);
};
