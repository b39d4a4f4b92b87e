import type { Json, Value } from '../../values/json.ts';
import type { TopNSort } from '../../planner/physical.ts';
import { stableOrder } from '../../values/orderInSteps.ts';
import { stillWorking } from '../batch.ts';
import { byPosition, heldByKey, heldPerRow, isAscending, OrderReader } from '../orderKeys.ts';
import { ownedBytes } from '../ownership.ts';
import { pulled, type Operator } from '../runtime.ts';

interface Kept {
  readonly row: Json;
  readonly position: number;
  readonly keys: readonly Value[];
  readonly bytes: number;
}

/**
 * Holds the N first rows alone: candidates are gathered up to twice N, then cut to N, and from then on a row
 * that comes after the last of those is passed over at once.
 */
export const topNSort: Operator<TopNSort> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const computed = step.keys.map(({ expression }) => expression.kind !== 'path');
  const bytesOf = ownedBytes(step.input);
  const gather = Math.max(2 * step.count, step.count + 512);
  let kept: Kept[] = [];
  let last: Kept | undefined;
  const cut = (): void => {
    const columns: ReturnType<typeof byPosition>[] = step.keys.map(({ direction, nulls }, k) => ({
      values: kept.map(({ keys }) => keys[k]),
      direction,
      nulls,
    }));
    const places = kept.map(({ position }) => position);
    if (!isAscending(places)) columns.push(byPosition(places));
    kept = Array.from(stableOrder(columns, kept.length).subarray(0, step.count), (i) => kept[i]);
    if (kept.length === step.count) last = kept[step.count - 1];
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    let bytes = 0;
    for (let i = 0; i < batch.rows.length && step.count > 0; i++) {
      const row = batch.rows[i];
      const first = reader.evaluators[0](row, context);
      if (last !== undefined && reader.compare(0, first, last.keys[0]) > 0) continue;
      const keys = reader.evaluators.map((evaluate, k) => (k === 0 ? first : evaluate(row, context)));
      const size = keys.reduce<number>((sum, key, k) => sum + heldByKey(key, computed[k]), heldPerRow + 32 + bytesOf(row));
      kept.push({ row, position: batch.positions[i], keys, bytes: size });
      bytes += size;
      if (kept.length >= gather) {
        cut();
        bytes = 0;
        runMeter.hold(meter, kept.reduce((sum, one) => sum + one.bytes, 0) - meter.held);
      }
    }
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  cut();
  yield { rows: kept.map(({ row }) => row), positions: kept.map(({ position }) => position) };
  runMeter.hold(meter, -meter.held);
};
