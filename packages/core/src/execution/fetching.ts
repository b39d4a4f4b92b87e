import { compileFetch, roomFor, settled } from '../expressions/compile.ts';
import type { IndexSetScan, PositionsScan } from '../planner/physical.ts';
import type { Rows } from './batch.ts';
import type { StepMeter } from './meter.ts';
import type { Runtime } from './runtime.ts';

const largestBatch = 2_048;

/** Follows ascending positions to their documents, those alone that pass the step's condition. Lets go of what it holds at the end. */
export function* fetched(step: IndexSetScan | PositionsScan, chosen: Uint32Array, runtime: Runtime, meter: StepMeter): Rows {
  const { storeOf, context, watch, meter: runMeter, batchRows } = runtime;
  const { documents } = storeOf(step.collection);
  const fetch = compileFetch(step.condition);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  for (let at = 0; at < chosen.length && wanted > 0;) {
    watch.look(step);
    const allowed = watch.mayRead(step, Math.min(largestBatch, batchRows, chosen.length - at));
    if (allowed === 0) return;
    const found = roomFor(Math.min(allowed, wanted));
    tally.read = 0;
    at = fetch(documents, { chosen, from: at, to: at + allowed, most: wanted }, found, tally, context);
    runMeter.read(meter, tally.read);
    wanted -= found.count;
    yield { rows: settled(found), positions: found.positions };
  }
  meter.hadEnough = wanted <= 0;
  runMeter.hold(meter, -meter.held);
}

/** Ascending positions, each once: a document may have several entries. */
export function differentPositions(sorted: Uint32Array): Uint32Array {
  let kept = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) sorted[kept++] = sorted[i]!;
  return sorted.subarray(0, kept);
}
