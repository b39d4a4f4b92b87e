import type { TopNSort } from '../../planner/physical.ts';
import type { OrderColumn } from '../../values/orderInSteps.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking, type Rows } from '../batch.ts';
import type { StepMeter } from '../meter.ts';
import { byPosition, heldPerKey, heldPerRow, heldWhileSorting, isAscending } from '../orderKeys.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import type { Operator, Runtime } from '../runtime.ts';
import { boundAt, noBound, type Bound } from '../segments/bound.ts';
import { driven } from '../segments/drive.ts';
import type { Segment } from '../segments/segment.ts';
import { compiledTopN, type TopToFill } from '../segments/topNEnd.ts';
import { sortedInSteps } from '../sorting.ts';

interface Kept {
  readonly row: Json;
  readonly position: number;
  readonly keys: readonly Value[];
  readonly bytes: number;
}

/** What a candidate is itself: an object, and the array of its keys. */
const heldPerCandidate = 120;

/**
 * Holds the N first rows alone: candidates are gathered up to twice N, then cut to N, and from then on a row
 * that comes after the last of those is passed over at once.
 */
export const topNOfSegment = (segment: Segment): Operator<TopNSort> =>
  function* (step, runtime, meter) {
    const top = new Top(step);
    const { meter: runMeter } = runtime;
    const taking = {
      into: top,
      hold: () => runMeter.hold(meter, top.held - meter.held),
      given: () => stillWorking,
      settling: () => (top.isFull ? top.cut(runtime, meter) : undefined),
    };
    yield* driven(step, segment, compiledTopN(step, segment), taking, runtime);
    yield* top.cut(runtime, meter);
    const most = runtime.batchRows;
    const ownedByRow = ownedBytes(step.input);
    const { kept } = top;
    for (let from = 0; from < kept.length; from += most) {
      const part = kept.slice(from, from + most);
      runMeter.hold(meter, -part.reduce((sum, { row }) => sum + ownedByRow(row), 0));
      yield { rows: part.map(({ row }) => row), positions: part.map(({ position }) => position) };
    }
    runMeter.hold(meter, -meter.held);
  };

/** The candidates for the first rows of an order. */
class Top implements TopToFill {
  kept: readonly Kept[] = [];
  bound: Bound = noBound;
  /** Bytes. */
  held = 0;
  private candidates: Kept[] = [];
  private readonly step: TopNSort;
  private readonly gather: number;
  private readonly ownedByRow: (row: Json) => number;
  private readonly ownedByKeys: readonly ((key: Json) => number)[];

  constructor(step: TopNSort) {
    const { count, keys, input } = step;
    this.step = step;
    this.gather = Math.max(2 * count, count + 512);
    this.ownedByRow = ownedBytes(input);
    this.ownedByKeys = keys.map(({ expression }) => (expression.kind === 'path' ? () => 0 : ownedByValue(expression, input)));
  }

  get isFull(): boolean {
    return this.candidates.length >= this.gather;
  }

  take(row: Json, position: number, keys: readonly Value[]): void {
    let bytes = heldPerRow + heldPerCandidate + this.ownedByRow(row);
    for (let k = 0; k < keys.length; k++) bytes += heldPerKey + (keys[k] === undefined ? 0 : this.ownedByKeys[k]!(keys[k]!));
    this.candidates.push({ row, position, keys, bytes });
    this.held += bytes;
  }

  /** Lets go of all but the first rows. */
  *cut(runtime: Runtime, meter: StepMeter): Rows {
    const { step, candidates } = this;
    const columns: OrderColumn[] = step.keys.map(({ direction, nulls }, k) => ({
      values: candidates.map(({ keys }) => keys[k]),
      direction,
      nulls,
    }));
    const places = candidates.map(({ position }) => position);
    if (!isAscending(places)) columns.push(byPosition(places));
    const sorting = { count: candidates.length, step, heldEach: heldPerRow + heldWhileSorting };
    const order = yield* sortedInSteps(columns, sorting, runtime, meter);
    this.candidates = Array.from(order.subarray(0, step.count), (i) => candidates[i]!);
    this.kept = this.candidates;
    if (this.kept.length === step.count) this.bound = boundAt(this.kept.at(-1)?.keys[0]);
    this.held = this.kept.reduce((sum, one) => sum + one.bytes, 0);
    runtime.meter.hold(meter, this.held - meter.held);
  }
}
