import { compileFetch, roomFor, settled } from '../../expressions/compile.ts';
import type { OrderedIndex } from '../../indexes/ordered/orderedIndex.ts';
import type { IndexRange } from '../../indexes/ordered/sortedEntries.ts';
import { rangesOf } from '../../planner/lookedUp.ts';
import type { IndexScan, OrderedWalk } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { positionsInOrder } from '../indexWalk.ts';
import type { Operator } from '../runtime.ts';
import { indexOnlyScan } from './indexOnlyScan.ts';
import { orderedIndexOf } from '../orderedIndexOf.ts';

const largestBatch = 2_048;

export const indexScan: Operator<IndexScan> = function* (step, runtime, meter) {
  if (step.covering !== undefined) {
    yield* indexOnlyScan({ ...step, covering: step.covering }, runtime, meter);
    return;
  }
  const { storeOf, context, watch, meter: runMeter, batchRows } = runtime;
  const { documents } = storeOf(step.collection);
  const index = orderedIndexOf(runtime, step.collection, step.index);
  const fetch = compileFetch(step.condition);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  const chunks =
    step.ordered === undefined
      ? inInsertionOrder(rangesOf(step, context.parameters), step.withAbsent, index)
      : inIndexOrder(step.ordered, index, step.skip, step.demand ?? step.pace);
  let held = 0;
  for (const chunk of chunks) {
    if (step.ordered === undefined) {
      held = chunk.length * 8;
      runMeter.hold(meter, held);
      meter.indexEntriesRead += chunk.length;
      yield stillWorking;
    }
    for (let at = 0; at < chunk.length && wanted > 0;) {
      watch.look(step);
      const allowed = watch.mayRead(step, Math.min(largestBatch, batchRows, chunk.length - at));
      if (allowed === 0) return;
      const found = roomFor(Math.min(allowed, wanted));
      tally.read = 0;
      const next = fetch(documents, { chosen: chunk, from: at, to: at + allowed, most: wanted }, found, tally, context);
      if (step.ordered !== undefined) meter.indexEntriesRead += next - at;
      at = next;
      runMeter.read(meter, tally.read);
      wanted -= found.count;
      // A chunk in the order of the index is of whole groups that tie.
      yield { rows: settled(found), positions: found.positions, endsTie: step.ordered !== undefined && at >= chunk.length };
    }
    if (wanted <= 0) {
      meter.hadEnough = true;
      break;
    }
  }
  runMeter.hold(meter, -held);
};

/** All positions of the ranges at once, and of documents without an entry where they are wanted; ascending and each once. */
function* inInsertionOrder(
  ranges: readonly IndexRange[],
  withAbsent: boolean,
  index: OrderedIndex,
): Generator<readonly number[] | Uint32Array> {
  const found = ranges.length === 1 ? index.positionsOf(ranges[0]!) : ranges.flatMap((range) => index.positionsOf(range));
  if (found.length <= 1 && !withAbsent) {
    yield found;
    return;
  }
  const sorted = Uint32Array.from(withAbsent ? [...found, ...index.absent] : found).sort();
  // A document may have several entries: one for each element of an array.
  let kept = 0;
  for (let i = 0; i < sorted.length; i++) if (i === 0 || sorted[i] !== sorted[i - 1]) sorted[kept++] = sorted[i]!;
  yield sorted.subarray(0, kept);
}

/** Positions in the order of the index, in small chunks that grow. */
function* inIndexOrder(walk: OrderedWalk, index: OrderedIndex, skip: number, wanted: number | undefined): Generator<readonly number[]> {
  let chunk: number[] = [];
  let size = Math.min(64, (wanted ?? 64) + 1);
  for (const group of positionsInOrder(index, walk, skip)) {
    for (const position of group) chunk.push(position);
    if (chunk.length >= size) {
      yield chunk;
      chunk = [];
      size = Math.min(size * 2, largestBatch);
    }
  }
  if (chunk.length > 0) yield chunk;
}
