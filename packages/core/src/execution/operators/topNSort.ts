import type { Json, Value } from '../../values/json.ts';
import type { TopNSort } from '../../planner/physical.ts';
import type { OrderColumn } from '../../values/orderInSteps.ts';
import { stillWorking, type Batch } from '../batch.ts';
import { byPosition, heldPerKey, heldPerRow, heldWhileSorting, isAscending, OrderReader } from '../orderKeys.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { pulled, type Operator } from '../runtime.ts';
import { sortedInSteps } from '../sorting.ts';

interface Kept {
  readonly row: Json;
  readonly position: number;
  readonly keys: readonly Value[];
  readonly bytes: number;
}

/** What a candidate is itself: an object, and the array of its keys. */
const heldPerCandidate = 120;

/**
 * Holds the N first rows alone: candidates are gathered up to twice N, then cut to N, and from then on a row
 * that comes after the last of those is passed over at once.
 */
// eslint-disable-next-line max-lines-per-function -- what is held between two batches is shared by its steps
export const topNSort: Operator<TopNSort> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const ownedByRow = ownedBytes(step.input);
  const ownedByKeys = step.keys.map(({ expression }) => (expression.kind === 'path' ? () => 0 : ownedByValue(expression, step.input)));
  const gather = Math.max(2 * step.count, step.count + 512);
  let kept: Kept[] = [];
  let last: Kept | undefined;
  const cut = function* () {
    const columns: OrderColumn[] = step.keys.map(({ direction, nulls }, k) => ({
      values: kept.map(({ keys }) => keys[k]),
      direction,
      nulls,
    }));
    const places = kept.map(({ position }) => position);
    if (!isAscending(places)) columns.push(byPosition(places));
    const order = yield* sortedInSteps(columns, { count: kept.length, step, heldEach: heldPerRow + heldWhileSorting }, runtime, meter);
    kept = Array.from(order.subarray(0, step.count), (i) => kept[i]!);
    if (kept.length === step.count) last = kept[step.count - 1];
    runMeter.hold(meter, kept.reduce((sum, one) => sum + one.bytes, 0) - meter.held);
  };
  let gathered = 0;
  /**
   * Takes rows of a batch until there are enough candidates. The loop over rows has no place where it is left and come back to:
   * it costs twice as much with one.
   * @returns how many rows have been looked at
   */
  const take = ({ rows, positions }: Batch, from: number): number => {
    const evaluate = reader.evaluators[0]!;
    for (let i = from; i < rows.length; i++) {
      const row = rows[i]!;
      const first = evaluate(row, context);
      if (last !== undefined && reader.compare(0, first, last.keys[0]) > 0) continue;
      const keys = reader.evaluators.map((further, k) => (k === 0 ? first : further(row, context)));
      const size = keys.reduce<number>(
        (sum, key, k) => sum + heldPerKey + (key === undefined ? 0 : ownedByKeys[k]!(key)),
        heldPerRow + heldPerCandidate + ownedByRow(row),
      );
      kept.push({ row, position: positions[i]!, keys, bytes: size });
      gathered += size;
      if (kept.length >= gather) return i + 1;
    }
    return rows.length;
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let from = step.count > 0 ? 0 : batch.rows.length; from < batch.rows.length;) {
      from = take(batch, from);
      runMeter.hold(meter, gathered);
      gathered = 0;
      if (kept.length >= gather) yield* cut();
    }
    watch.look(step);
    yield stillWorking;
  }
  yield* cut();
  const most = runtime.batchRows;
  for (let from = 0; from < kept.length; from += most) {
    const part = kept.slice(from, from + most);
    runMeter.hold(meter, -part.reduce((sum, { row }) => sum + ownedByRow(row), 0));
    yield { rows: part.map(({ row }) => row), positions: part.map(({ position }) => position) };
  }
  runMeter.hold(meter, -meter.held);
};
