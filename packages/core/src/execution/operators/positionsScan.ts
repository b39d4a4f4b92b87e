import { kindOf } from '../../indexes/kinds.ts';
import type { PositionsScan } from '../../planner/physical.ts';
import { differentPositions, fetched } from '../fetching.ts';
import { stillWorking } from '../batch.ts';
import type { Operator } from '../runtime.ts';

export const positionsScan: Operator<PositionsScan> = function* (step, runtime, meter) {
  const index = runtime.indexOf(step.collection, step.index);
  const { access } = kindOf(index.definition);
  if (access.by !== 'positions') throw new Error(`a plan asks ${step.index} for positions, which it does not give`);
  const found = Uint32Array.from(access.find(index, step.lookup)).sort();
  meter.indexEntriesRead += found.length;
  runtime.meter.hold(meter, found.byteLength);
  runtime.watch.look(step);
  yield stillWorking;
  yield* fetched(step, differentPositions(found), runtime, meter);
};
