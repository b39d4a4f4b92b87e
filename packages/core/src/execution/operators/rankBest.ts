import type { Rank } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking, type Batch, type Rows } from '../batch.ts';
import type { StepMeter } from '../meter.ts';
import { TupleNumbers } from '../numbering/tupleNumbers.ts';
import { OrderReader } from '../orderKeys.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { placeAt } from '../placing.ts';
import { nextRank } from '../ranking.ts';
import type { Operator, Runtime } from '../runtime.ts';
import { compiledBest, type BestToFill, type PartitionToFill } from '../segments/bestEnd.ts';
import { boundAt, noBound, type Bound } from '../segments/bound.ts';
import { driven } from '../segments/drive.ts';
import type { Segment } from '../segments/segment.ts';
import { sortedInSteps } from '../sorting.ts';

const largestBatch = 2_048;
/** Up to so many candidates are compared with each other; more are sorted by their columns. */
const few = 64;
/** What a candidate is itself: an object, the array of its keys, and its place in its partition. */
const heldPerCandidate = 140;

type BestRank = Rank & { readonly atMost: number };

interface Candidate {
  readonly row: Json;
  readonly position: number;
  /** Its place among the rows that came. */
  readonly arrival: number;
  readonly keys: readonly Value[];
  readonly bytes: number;
  rank: number;
}

class Partition implements PartitionToFill {
  candidates: Candidate[] = [];
  /** Once so many have gathered, those of too great a rank are let go. */
  cutAt: number;
  /** The first key of the last of those that are kept, once there are so many that what comes after it has too great a rank. */
  bound: Bound = noBound;

  constructor(cutAt: number) {
    this.cutAt = cutAt;
  }
}

/** Holds of each partition little more than the rows that are kept in the end. */
export const bestOfSegment = (segment: Segment): Operator<BestRank> =>
  function* (step, runtime, meter) {
    const { meter: runMeter } = runtime;
    const best = new Best(step, runtime, meter);
    const taking = {
      into: best,
      hold: () => runMeter.hold(meter, best.held - meter.held),
      given: () => stillWorking,
      settling: () => (best.full.length > 0 ? best.cutFull() : undefined),
    };
    yield* driven(step, segment, compiledBest(step, segment), taking, runtime);
    const all = yield* best.chosen();
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

/** The candidates of all partitions. */
class Best implements BestToFill {
  readonly partitionOf: (...keys: Value[]) => Partition;
  /** Those that have so many candidates that they are to be cut. */
  full: Partition[] = [];
  private readonly step: BestRank;
  private readonly runtime: Runtime;
  private readonly meter: StepMeter;
  private readonly reader: OrderReader;
  private readonly numbers: TupleNumbers;
  private readonly partitions: Partition[] = [];
  private readonly ownedByRow: (row: Json) => number;
  private readonly ownedByKeys: readonly (((key: Json) => number) | undefined)[];
  private readonly firstCut: number;
  private heldByCandidates = 0;
  private arrival = 0;

  constructor(step: BestRank, runtime: Runtime, meter: StepMeter) {
    const { keys, partition, input } = step;
    this.step = step;
    this.runtime = runtime;
    this.meter = meter;
    this.reader = new OrderReader(keys);
    this.numbers = new TupleNumbers(partition.map((expression) => ownedByValue(expression, input)));
    this.ownedByRow = ownedBytes(input);
    this.ownedByKeys = keys.map(({ expression }) => (expression.kind === 'path' ? undefined : ownedByValue(expression, input)));
    this.firstCut = step.atMost * 2 + 4;
    this.partitionOf = this.finder(partition.length);
  }

  /** Bytes. */
  get held(): number {
    return this.heldByCandidates + this.numbers.held;
  }

  private finder(keys: number): (...keys: Value[]) => Partition {
    const { numberOf } = this.numbers;
    const at = (number: number): Partition => (this.partitions[number] ??= new Partition(this.firstCut));
    // Without a list being made for each row where there is one key, or none.
    if (keys < 2) return (key) => at(numberOf(key));
    return (...all) => at(numberOf(...all));
  }

  take(partition: Partition, row: Json, position: number, keys: readonly Value[]): void {
    let bytes = heldPerCandidate + this.ownedByRow(row);
    for (let k = 0; k < keys.length; k++) if (keys[k] !== undefined) bytes += this.ownedByKeys[k]?.(keys[k]!) ?? 0;
    this.heldByCandidates += bytes;
    partition.candidates.push({ row, position, arrival: this.arrival++, keys, bytes, rank: 0 });
    if (partition.candidates.length === partition.cutAt) this.full.push(partition);
  }

  *cutFull(): Rows {
    const { full } = this;
    this.full = [];
    for (const partition of full) yield* this.cut(partition);
  }

  /** The candidates that are left in the end, partition by partition. */
  *chosen(): Generator<Batch, Candidate[]> {
    const all: Candidate[] = [];
    for (const [n, partition] of this.partitions.entries()) {
      yield* this.cut(partition);
      for (const one of partition.candidates) all.push(one);
      if (n % 256 !== 255) continue;
      this.runtime.watch.look(this.step);
      yield stillWorking;
    }
    return all;
  }

  private *cut(partition: Partition): Generator<Batch> {
    const { step } = this;
    const inOrder = yield* this.sorted(partition);
    inOrder.forEach((one, i) => {
      const before = inOrder[i - 1]!;
      one.rank = nextRank(step, before?.rank ?? 0, i + 1, i > 0 && this.compare(before, one) === 0);
    });
    for (const one of partition.candidates) this.heldByCandidates -= one.bytes;
    partition.candidates = inOrder.filter((one) => one.rank <= step.atMost);
    for (const one of partition.candidates) this.heldByCandidates += one.bytes;
    const last = partition.candidates.at(-1);
    // Ranks that leave no gaps count values, and others rows.
    const isFull = step.ranking === 'denseRank' ? last?.rank === step.atMost : partition.candidates.length >= step.atMost;
    partition.bound = isFull && last !== undefined ? boundAt(last.keys[0]) : noBound;
    partition.cutAt = Math.max(this.firstCut, partition.candidates.length * 2);
  }

  private compare(a: Candidate, b: Candidate): number {
    for (let k = 0; k < a.keys.length; k++) {
      const order = this.reader.compare(k, a.keys[k], b.keys[k]);
      if (order !== 0) return order;
    }
    return 0;
  }

  /** The candidates of a partition, best first; ties by insertion order. */
  private *sorted({ candidates }: Partition): Generator<Batch, readonly Candidate[]> {
    const { step } = this;
    if (candidates.length <= few)
      return [...candidates].sort((a, b) => this.compare(a, b) || a.position - b.position || a.arrival - b.arrival);
    const columns = step.keys.map(({ direction, nulls }, k) => ({ values: candidates.map(({ keys }) => keys[k]), direction, nulls }));
    const places = ['position', 'arrival'] as const;
    const byPlace = places.map((place) => ({ values: candidates.map((one) => one[place]), direction: 'asc', nulls: 'last' }) as const);
    const order = yield* sortedInSteps([...columns, ...byPlace], { count: candidates.length, step }, this.runtime, this.meter);
    return Array.from(order, (i) => candidates[i]!);
  }
}
