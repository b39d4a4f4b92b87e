import { compileScan, roomFor, settled } from '../../expressions/compile.ts';
import { compileKeyRow } from '../../expressions/compileKeyRow.ts';
import type { OrderedIndex } from '../../indexes/ordered/orderedIndex.ts';
import type { Covering, IndexScan, OrderedWalk } from '../../planner/physical.ts';
import type { JsonObject, Value } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { entriesInOrder } from '../indexWalk.ts';
import type { Operator } from '../runtime.ts';
import { orderedIndexOf } from '../orderedIndexOf.ts';

const largestChunk = 2_048;

/** An index scan whose rows are made of the keys: no document is read. */
export const indexOnlyScan: Operator<IndexScan & { readonly covering: Covering }> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const most = Math.min(largestChunk, runtime.batchRows);
  const index = orderedIndexOf(runtime, step.collection, step.index);
  const kernel = compileScan(step.condition, true);
  const make = compileKeyRow(step.covering.targets);
  const tally = { read: 0, lookedAt: meter.lookedAt };
  let wanted = step.demand ?? Infinity;
  for (const chunk of step.ordered === undefined
    ? inInsertionOrder(step, index)
    : inIndexOrder(step.ordered, index, step.skip, step.demand ?? step.pace)) {
    if (step.ordered === undefined) {
      // What is collected before the first row comes: a position and a row's keys.
      runMeter.hold(meter, chunk.positions.length * 8 * (1 + chunk.keys.length));
      meter.indexEntriesRead += chunk.positions.length;
      yield stillWorking;
    }
    for (let at = 0; at < chunk.positions.length && wanted > 0; at += most) {
      watch.look(step);
      const to = Math.min(chunk.positions.length, at + most);
      const made: JsonObject[] = [];
      for (let i = at; i < to; i++) made.push(make(chunk.keys, chunk.order === undefined ? i : chunk.order[i]!));
      const found = roomFor(Math.min(made.length, wanted));
      tally.read = 0;
      const stopped = kernel(made, { from: 0, to: made.length, most: wanted }, found, tally, context);
      if (step.ordered !== undefined) meter.indexEntriesRead += stopped;
      meter.handedOver += stopped;
      wanted -= found.count;
      yield {
        rows: settled(found),
        positions: found.positions.map((place) => chunk.positions[chunk.order === undefined ? at + place : chunk.order[at + place]!]!),
        endsTie: step.ordered !== undefined && to === chunk.positions.length,
      };
    }
    if (wanted <= 0) {
      meter.hadEnough = true;
      break;
    }
  }
  runMeter.hold(meter, -meter.held);
};

/** Entries, a key a column; in the order of `order`, or as they stand. */
interface Chunk {
  readonly positions: readonly number[];
  readonly keys: readonly (readonly Value[])[];
  readonly order: Uint32Array | undefined;
}

/** All entries of the ranges, by the positions of their documents. */
function* inInsertionOrder({ ranges, covering }: IndexScan, index: OrderedIndex): Generator<Chunk> {
  const columns = ranges.map((range) => index.columnsOf(range));
  const only = columns.length === 1 ? columns[0] : undefined;
  const positions = only !== undefined ? only.positions : columns.flatMap((one) => one.positions);
  const keys = only !== undefined ? only.keys : index.definition.keys.map((_, k) => columns.flatMap((one) => one.keys[k]!));
  if (covering?.absent) {
    for (const position of index.absent) {
      positions.push(position);
      for (const column of keys) column.push(undefined);
    }
  }
  yield { positions, keys, order: placesInOrder(positions) };
}

/** Beyond this share of all positions they are put in order by being laid out, not by being compared. */
const dense = 1 / 16;

/** Where the positions stand, from the least to the greatest; no position stands twice. */
function placesInOrder(positions: readonly number[]): Uint32Array {
  const count = positions.length;
  let greatest = 0;
  for (const position of positions) if (position > greatest) greatest = position;
  if (count < greatest * dense) {
    // Position and place in one number, so that they sort without a function being called for each pair.
    const packed = Float64Array.from(positions, (position, i) => position * count + i).sort();
    return Uint32Array.from(packed, (both) => both % count);
  }
  const placeAt = new Uint32Array(greatest + 1);
  for (let i = 0; i < count; i++) placeAt[positions[i]!] = i + 1;
  const order = new Uint32Array(count);
  let at = 0;
  for (const place of placeAt) if (place > 0) order[at++] = place - 1;
  return order;
}

function* inIndexOrder(walk: OrderedWalk, index: OrderedIndex, skip: number, wanted: number | undefined): Generator<Chunk> {
  let positions: number[] = [];
  let keys: Value[][] = index.definition.keys.map(() => []);
  let size = Math.min(64, (wanted ?? 64) + 1);
  for (const group of entriesInOrder(index, walk, skip)) {
    for (const entry of group) {
      positions.push(entry.position);
      entry.keys.forEach((value, k) => keys[k]!.push(value));
    }
    if (positions.length < size) continue;
    yield { positions, keys, order: undefined };
    positions = [];
    keys = keys.map(() => []);
    size = Math.min(size * 2, largestChunk);
  }
  if (positions.length > 0) yield { positions, keys, order: undefined };
}
