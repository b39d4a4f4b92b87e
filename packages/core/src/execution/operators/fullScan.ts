import { compileScan } from '../../expressions/compile.ts';
import type { Json } from '../../values/json.ts';
import type { FullScan } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { ScanPace } from '../scanPace.ts';
import type { Operator } from '../runtime.ts';

export const fullScan: Operator<FullScan> = function* (step, { storeOf, context, watch, meter: runMeter, scanRows, result }, meter) {
  // What leaves at once goes straight to the result, and nobody may want to know where it comes from.
  const straight = result?.of === step && result.positions === undefined ? result.rows : undefined;
  const { documents } = storeOf(step.collection);
  const kernel = compileScan(step.condition);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  const pace = new ScanPace(scanRows);
  let at = 0;
  while (at < documents.length && wanted > 0) {
    watch.look(step);
    const allowed = watch.mayRead(step, pace.size);
    if (allowed === 0) return;
    const rows: Json[] = [];
    const positions: number[] | undefined = straight === undefined ? [] : undefined;
    tally.read = 0;
    at = kernel(documents, { from: at, to: Math.min(documents.length, at + allowed), most: wanted }, { rows, positions }, tally, context);
    pace.passed();
    runMeter.read(meter, tally.read);
    wanted -= rows.length;
    straight?.add(rows);
    yield positions === undefined ? { ...stillWorking, left: rows.length, bytes: 0 } : { rows, positions };
  }
  meter.hadEnough = at < documents.length;
};
