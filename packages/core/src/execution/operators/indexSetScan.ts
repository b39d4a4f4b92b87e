import { compileFetch } from '../../expressions/compile.ts';
import type { IndexSetScan } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import type { Operator } from '../runtime.ts';

const largestBatch = 2_048;

export const indexSetScan: Operator<IndexSetScan> = function* (step, runtime, meter) {
  const { storeOf, indexOf, context, watch, meter: runMeter, batchRows } = runtime;
  const { documents } = storeOf(step.collection);
  let positions: Uint32Array | undefined;
  for (const { index, ranges } of step.parts) {
    const found = Uint32Array.from(ranges.flatMap((range) => indexOf(step.collection, index).positionsOf(range))).sort();
    meter.indexEntriesRead += found.length;
    positions = positions === undefined ? different(found) : step.combine === 'union' ? united(positions, found) : shared(positions, found);
    runMeter.hold(meter, positions.length * 4 - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  const chosen = positions ?? new Uint32Array();
  const fetch = compileFetch(step.condition);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  for (let at = 0; at < chosen.length && wanted > 0;) {
    watch.look(step);
    const allowed = watch.mayRead(step, Math.min(largestBatch, batchRows, chosen.length - at));
    if (allowed === 0) return;
    const rows: Json[] = [];
    const kept: number[] = [];
    tally.read = 0;
    at = fetch(documents, chosen, at, at + allowed, rows, kept, wanted, tally, context);
    runMeter.read(meter, tally.read);
    wanted -= rows.length;
    yield { rows, positions: kept };
  }
  meter.hadEnough = wanted <= 0;
  runMeter.hold(meter, -meter.held);
};

/** Ascending positions, each once: a document may have several entries. */
function different(sorted: Uint32Array): Uint32Array {
  let kept = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) sorted[kept++] = sorted[i];
  return sorted.subarray(0, kept);
}

function united(a: Uint32Array, b: Uint32Array): Uint32Array {
  const all = new Uint32Array(a.length + b.length);
  all.set(a);
  all.set(b, a.length);
  return different(all.sort());
}

function shared(a: Uint32Array, b: Uint32Array): Uint32Array {
  const both: number[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (a[i] < b[j]) i++;
    else if (a[i] > b[j]) j++;
    else {
      both.push(a[i++]);
      while (j < b.length && b[j] === a[i - 1]) j++;
    }
  }
  return Uint32Array.from(both);
}
