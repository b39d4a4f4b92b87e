import type { Rank } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import type { OrderColumn } from '../../values/orderInSteps.ts';
import { stillWorking } from '../batch.ts';
import { byPosition, heldPerKey, heldPerRow, isAscending, OrderReader } from '../orderKeys.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { placeAt } from '../placing.ts';
import { pulled, type Operator } from '../runtime.ts';
import { nextRank, Partitions } from '../ranking.ts';
import { sortedInSteps } from '../sorting.ts';

const largestBatch = 2_048;

/** Sorts all rows by partition and keys, counts through them, and gives them out as they came. */
export const rankAll: Operator<Rank> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const partitions = new Partitions(step);
  const ownedByRow = ownedBytes(step.input);
  const ownedByKeys = step.keys.map(({ expression }) => (expression.kind === 'path' ? undefined : ownedByValue(expression, step.input)));
  const rows: Json[] = [];
  const positions: number[] = [];
  const numbers: number[] = [];
  const columns: Value[][] = step.keys.map(() => []);
  let heldByPartitions = 0;
  for (const batch of pulled(step.input, runtime, meter)) {
    let bytes = batch.rows.length * (heldPerRow + heldPerKey * (1 + columns.length));
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i]!;
      rows.push(row);
      positions.push(batch.positions[i]!);
      numbers.push(partitions.numberOf(row, context));
      bytes += ownedByRow(row);
      for (let k = 0; k < columns.length; k++) {
        const value = reader.evaluators[k]!(row, context);
        columns[k]!.push(value);
        if (value !== undefined) bytes += ownedByKeys[k]?.(value) ?? 0;
      }
    }
    runMeter.hold(meter, bytes + partitions.held - heldByPartitions);
    heldByPartitions = partitions.held;
    watch.look(step);
    yield stillWorking;
  }
  const keyed: OrderColumn[] = [
    { values: numbers, direction: 'asc', nulls: 'last' },
    ...step.keys.map(({ direction, nulls }, k) => ({ values: columns[k]!, direction, nulls })),
    ...(isAscending(positions) ? [] : [byPosition(positions)]),
  ];
  const order = yield* sortedInSteps(keyed, { count: rows.length, step }, runtime, meter);
  const ranks = new Uint32Array(rows.length);
  for (let i = 0, place = 0; i < order.length; i++) {
    const row = order[i]!;
    const before = order[i - 1]!;
    const isSame = i > 0 && numbers[before] === numbers[row];
    place = isSame ? place + 1 : 1;
    const ties = isSame && columns.every((column, k) => reader.compare(k, column[before], column[row]) === 0);
    ranks[row] = nextRank(step, isSame ? ranks[before]! : 0, place, ties);
    if (i % 65_536 !== 65_535) continue;
    watch.look(step);
    yield stillWorking;
  }
  const place = placeAt(step.target);
  const most = Math.min(largestBatch, runtime.batchRows);
  for (let from = 0; from < rows.length; from += most) {
    const part = rows.slice(from, from + most);
    runMeter.hold(meter, -part.reduce<number>((sum, row) => sum + ownedByRow(row), 0));
    yield { rows: part.map((row, i) => place(row, ranks[from + i])), positions: positions.slice(from, from + most) };
  }
  runMeter.hold(meter, -meter.held);
};
