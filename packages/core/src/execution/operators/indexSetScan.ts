import type { IndexSetScan } from '../../planner/physical.ts';
import { differentPositions, fetched } from '../fetching.ts';
import { stillWorking } from '../batch.ts';
import { positionsOf } from '../positionsOf.ts';
import type { Operator } from '../runtime.ts';

export const indexSetScan: Operator<IndexSetScan> = function* (step, runtime, meter) {
  const { watch, meter: runMeter } = runtime;
  let positions: Uint32Array | undefined;
  for (const part of step.parts) {
    const found = positionsOf(runtime, step.collection, part);
    meter.indexEntriesRead += found.length;
    positions =
      positions === undefined ? differentPositions(found) : step.combine === 'union' ? united(positions, found) : shared(positions, found);
    runMeter.hold(meter, positions.length * 4 - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  yield* fetched(step, positions ?? new Uint32Array(), runtime, meter);
};

function united(a: Uint32Array, b: Uint32Array): Uint32Array {
  const all = new Uint32Array(a.length + b.length);
  all.set(a);
  all.set(b, a.length);
  return differentPositions(all.sort());
}

function shared(a: Uint32Array, b: Uint32Array): Uint32Array {
  const both: number[] = [];
  for (let i = 0, j = 0; i < a.length && j < b.length;) {
    if (a[i]! < b[j]!) i++;
    else if (a[i]! > b[j]!) j++;
    else {
      both.push(a[i++]!);
      while (j < b.length && b[j] === a[i - 1]) j++;
    }
  }
  return Uint32Array.from(both);
}
