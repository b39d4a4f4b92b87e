import { compileScan, roomFor, settled } from '../../expressions/compile.ts';
import type { FullScan } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { mostAtOnce, ScanPace } from '../scanPace.ts';
import type { Operator } from '../runtime.ts';

export const fullScan: Operator<FullScan> = function* (step, { storeOf, context, watch, meter: runMeter, scanRows, result }, meter) {
  // What leaves at once goes straight to the result, and nobody may want to know where it comes from.
  const straight = result?.of === step && result.positions === undefined ? result.rows : undefined;
  const { documents } = storeOf(step.collection);
  const kernel = compileScan(step.condition, straight === undefined);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  // Rows that go on to another step go in the usual numbers.
  const pace = new ScanPace(straight === undefined ? scanRows : mostAtOnce(step.condition, scanRows));
  let at = 0;
  while (at < documents.length && wanted > 0) {
    watch.look(step);
    const allowed = watch.mayRead(step, pace.size);
    if (allowed === 0) return;
    const found = straight?.room() ?? roomFor(Math.min(allowed, wanted));
    const before = found.count;
    const most = Math.min(wanted, found.rows.length - before);
    tally.read = 0;
    at = kernel(documents, { from: at, to: Math.min(documents.length, at + allowed), most }, found, tally, context);
    pace.passed();
    runMeter.read(meter, tally.read);
    const came = found.count - before;
    wanted -= came;
    straight?.filled(came);
    yield straight !== undefined ? { ...stillWorking, left: came, bytes: 0 } : { rows: settled(found), positions: found.positions ?? [] };
  }
  meter.hadEnough = at < documents.length;
};
