import { compileScan } from '../../expressions/compile.ts';
import type { Json } from '../../values/json.ts';
import type { FullScan } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';

const firstBatch = 64;
const largestBatch = 4_096;

export const fullScan: Operator<FullScan> = function* (step, { storeOf, context, watch, meter: runMeter, batchRows }, meter) {
  const { documents } = storeOf(step.collection);
  const kernel = compileScan(step.condition);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  // Batches grow, so that a run that ends soon reads little.
  let size = Math.min(firstBatch, batchRows);
  let at = 0;
  while (at < documents.length && wanted > 0) {
    watch.look(step);
    const allowed = watch.mayRead(step, size);
    if (allowed === 0) return;
    const rows: Json[] = [];
    const positions: number[] = [];
    tally.read = 0;
    at = kernel(documents, { from: at, to: Math.min(documents.length, at + allowed), most: wanted }, { rows, positions }, tally, context);
    runMeter.read(meter, tally.read);
    wanted -= rows.length;
    yield { rows, positions };
    size = Math.min(size * 2, largestBatch, batchRows);
  }
  meter.hadEnough = at < documents.length;
};
