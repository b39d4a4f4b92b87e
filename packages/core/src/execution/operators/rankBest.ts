import type { Rank } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking, type Batch } from '../batch.ts';
import { OrderReader } from '../orderKeys.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { placeAt } from '../placing.ts';
import { pulled, type Operator } from '../runtime.ts';
import { nextRank, Partitions } from '../ranking.ts';
import { sortedInSteps } from '../sorting.ts';

const largestBatch = 2_048;
/** Up to so many candidates are compared with each other; more are sorted by their columns. */
const few = 64;
/** What a candidate is itself: an object, the array of its keys, and its place in its partition. */
const heldPerCandidate = 140;

interface Candidate {
  readonly row: Json;
  readonly position: number;
  /** Its place among the rows that came. */
  readonly arrival: number;
  readonly keys: readonly Value[];
  readonly bytes: number;
  rank: number;
}

interface Partition {
  candidates: Candidate[];
  /** Once so many have gathered, those of too great a rank are let go. */
  cutAt: number;
  /** The last of those that are kept, once there are so many that what comes after it has too great a rank. */
  last: Candidate | undefined;
}

/** Holds of each partition little more than the rows that are kept in the end. */
// eslint-disable-next-line max-lines-per-function -- what is held between two batches is shared by its steps
export const rankBest: Operator<Rank & { readonly atMost: number }> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const numbers = new Partitions(step);
  const partitions: Partition[] = [];
  const ownedByRow = ownedBytes(step.input);
  const ownedByKeys = step.keys.map(({ expression }) => (expression.kind === 'path' ? undefined : ownedByValue(expression, step.input)));
  const firstCut = step.atMost * 2 + 32;
  let held = 0;
  let arrival = 0;

  const compare = (a: Candidate, b: Candidate): number => {
    for (let k = 0; k < a.keys.length; k++) {
      const order = reader.compare(k, a.keys[k], b.keys[k]);
      if (order !== 0) return order;
    }
    return 0;
  };
  /** The candidates of a partition, best first; ties by insertion order. */
  const sorted = function* ({ candidates }: Partition): Generator<Batch, readonly Candidate[]> {
    if (candidates.length <= few) return [...candidates].sort((a, b) => compare(a, b) || a.position - b.position || a.arrival - b.arrival);
    const columns = step.keys.map(({ direction, nulls }, k) => ({ values: candidates.map(({ keys }) => keys[k]), direction, nulls }));
    const places = ['position', 'arrival'] as const;
    const byPlace = places.map((place) => ({ values: candidates.map((one) => one[place]), direction: 'asc', nulls: 'last' }) as const);
    const order = yield* sortedInSteps([...columns, ...byPlace], { count: candidates.length, step }, runtime, meter);
    return Array.from(order, (i) => candidates[i]!);
  };
  const cut = function* (partition: Partition): Generator<Batch> {
    const inOrder = yield* sorted(partition);
    inOrder.forEach((one, i) => {
      const before = inOrder[i - 1]!;
      one.rank = nextRank(step, before?.rank ?? 0, i + 1, i > 0 && compare(before, one) === 0);
    });
    for (const one of partition.candidates) held -= one.bytes;
    partition.candidates = inOrder.filter((one) => one.rank <= step.atMost);
    for (const one of partition.candidates) held += one.bytes;
    const last = partition.candidates.at(-1);
    // Ranks that leave no gaps count values, and others rows.
    const isFull = step.ranking === 'denseRank' ? last?.rank === step.atMost : partition.candidates.length >= step.atMost;
    partition.last = isFull ? last : undefined;
    partition.cutAt = Math.max(firstCut, partition.candidates.length * 2);
  };

  /**
   * Takes rows of a batch until a partition has so many candidates that it is to be cut. The loop over rows has no place where it
   * is left and come back to: it costs much more with one.
   * @returns how many rows have been looked at, and the partition that is to be cut
   */
  const take = ({ rows, positions }: Batch, from: number): { next: number; full: Partition | undefined } => {
    for (let i = from; i < rows.length; i++) {
      const row = rows[i]!;
      const partition = (partitions[numbers.numberOf(row, context)] ??= { candidates: [], cutAt: firstCut, last: undefined });
      const first = reader.evaluators[0]!(row, context);
      // It comes after as many as are kept.
      if (partition.last !== undefined && reader.compare(0, first, partition.last.keys[0]) > 0) continue;
      const keys = reader.evaluators.map((evaluate, k) => (k === 0 ? first : evaluate(row, context)));
      let bytes = heldPerCandidate + ownedByRow(row);
      keys.forEach((value, k) => {
        if (value !== undefined) bytes += ownedByKeys[k]?.(value) ?? 0;
      });
      held += bytes;
      partition.candidates.push({ row, position: positions[i]!, arrival: arrival++, keys, bytes, rank: 0 });
      if (partition.candidates.length >= partition.cutAt) return { next: i + 1, full: partition };
    }
    return { next: rows.length, full: undefined };
  };
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let from = 0; from < batch.rows.length;) {
      const { next, full } = take(batch, from);
      from = next;
      if (full !== undefined) yield* cut(full);
    }
    runMeter.hold(meter, held + numbers.held - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  const all: Candidate[] = [];
  for (const [n, partition] of partitions.entries()) {
    yield* cut(partition);
    for (const one of partition.candidates) all.push(one);
    if (n % 256 !== 255) continue;
    watch.look(step);
    yield stillWorking;
  }
  all.sort((a, b) => a.arrival - b.arrival);
  const place = placeAt(step.target);
  const most = Math.min(largestBatch, runtime.batchRows);
  for (let from = 0; from < all.length; from += most) {
    const part = all.slice(from, from + most);
    runMeter.hold(meter, -part.reduce((sum, { bytes }) => sum + bytes, 0));
    yield { rows: part.map((one) => place(one.row, one.rank)), positions: part.map((one) => one.position) };
  }
  runMeter.hold(meter, -meter.held);
};
