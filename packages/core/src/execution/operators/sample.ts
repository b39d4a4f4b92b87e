import { seededNumbers } from '../../values/seededNumbers.ts';
import type { TakeSample } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { ownedBytes } from '../ownership.ts';
import { pulled, type Operator } from '../runtime.ts';

/** What a row that is taken holds beside itself: an object with its places, and a reference to that. */
const heldPerTaken = 58;

interface Taken {
  readonly row: Json;
  readonly position: number;
  readonly arrival: number;
}

/** Every row is as likely to be among the N (Vitter 1985, algorithm R); they come out in the order in which they came. */
export const sample: Operator<TakeSample> = function* (step, runtime, meter) {
  const { watch, meter: runMeter, context } = runtime;
  const random = seededNumbers(step.seed ?? Date.parse(context.now) + Math.floor(Math.random() * 1e9));
  const bytesOf = ownedBytes(step.input);
  const taken: Taken[] = [];
  let arrival = 0;
  for (const batch of pulled(step.input, runtime, meter)) {
    let bytes = 0;
    batch.rows.forEach((row, i) => {
      const place = arrival < step.count ? arrival : Math.floor(random() * (arrival + 1));
      if (place < step.count) {
        const before = taken[place];
        bytes += heldPerTaken + bytesOf(row) - (before === undefined ? 0 : heldPerTaken + bytesOf(before.row));
        taken[place] = { row, position: batch.positions[i]!, arrival };
      }
      arrival++;
    });
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  taken.sort((a, b) => a.arrival - b.arrival);
  for (let from = 0; from < taken.length; from += runtime.batchRows) {
    const part = taken.slice(from, from + runtime.batchRows);
    runMeter.hold(meter, -part.reduce((sum, { row }) => sum + bytesOf(row), 0));
    yield { rows: part.map(({ row }) => row), positions: part.map(({ position }) => position) };
  }
  runMeter.hold(meter, -meter.held);
};
