import type { PositionsScan } from '../../planner/physical.ts';
import { differentPositions, fetched } from '../fetching.ts';
import { positionsOf } from '../positionsOf.ts';
import { stillWorking } from '../batch.ts';
import type { Operator } from '../runtime.ts';

export const positionsScan: Operator<PositionsScan> = function* (step, runtime, meter) {
  const found = positionsOf(runtime, step.collection, step);
  meter.indexEntriesRead += found.length;
  runtime.meter.hold(meter, found.byteLength);
  runtime.watch.look(step);
  yield stillWorking;
  yield* fetched(step, differentPositions(found), runtime, meter);
};
