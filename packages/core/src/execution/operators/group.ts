import { compileValue } from '../../expressions/compile.ts';
import { compileKeyRow } from '../../expressions/compileKeyRow.ts';
import type { Context } from '../../expressions/context.ts';
import type { Group } from '../../planner/physical.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { keepWholeSums } from '../../values/wholeSums.ts';
import { shellBytes } from '../../values/size.ts';
import { columns as columnFor } from '../groups/columns.ts';
import type { Column } from '../groups/column.ts';
import { TupleNumbers } from '../numbering/tupleNumbers.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { stillWorking, type Rows } from '../batch.ts';
import type { StepMeter } from '../meter.ts';
import { assigned } from '../placing.ts';
import type { Operator, Runtime } from '../runtime.ts';
import { driven } from '../segments/drive.ts';
import { compiledGroup } from '../segments/groupEnd.ts';
import type { Segment } from '../segments/segment.ts';

const largestBatch = 2_048;
const fewestGroups = 16;
/** A key's place in its column. */
const heldPerKey = 10;

/** Takes the rows of a segment into groups, and gives a row for each. */
export const groupOfSegment = (segment: Segment): Operator<Group> =>
  function* (step, runtime, meter) {
    const { meter: runMeter } = runtime;
    const groups = new Groups(step);
    const { compiled, settle } = compiledGroup(step, segment);
    // Everything is one group, even where there are no rows.
    if (step.keys === undefined) groups.find();
    const taking = {
      into: groups,
      hold: () => runMeter.hold(meter, groups.held - meter.held),
      given: () => stillWorking,
      settled: (counts: Float64Array) => settle(counts, meter),
    };
    yield* driven(step, segment, compiled, taking, runtime);
    yield* rowsOf(step, groups, runtime, meter);
  };

function* rowsOf(step: Group, groups: Groups, runtime: Runtime, meter: StepMeter): Rows {
  const { context, meter: runMeter } = runtime;
  const rowOf = runtime.keepsSums ? withSums(groups, rowMaker(step, groups, context)) : rowMaker(step, groups, context);
  const most = Math.min(largestBatch, runtime.batchRows);
  const ownedByRow = ownedBytes(step);
  for (let from = 0; from < groups.size; from += most) {
    const rows: Json[] = [];
    const positions: number[] = [];
    let passed = 0;
    for (let group = from; group < Math.min(groups.size, from + most); group++) {
      const row = rowOf(group);
      rows.push(row);
      positions.push(group);
      passed += ownedByRow(row) - shellBytes(row);
    }
    // What a row is made of goes on with it.
    runMeter.hold(meter, -Math.min(passed, meter.held));
    yield { rows, positions };
  }
  runMeter.hold(meter, -meter.held);
}

/** Rows that have with them what their sums were before they were rounded. */
function withSums({ columns }: Groups, rowOf: (group: number) => Json): (group: number) => Json {
  if (columns.every(({ wholeOf }) => wholeOf === undefined)) return rowOf;
  return (group) => {
    const row = rowOf(group);
    const sums = columns.map((column) => column.wholeOf?.(group) ?? null);
    keepWholeSums(row, sums);
    return row;
  };
}

/** The groups of a run, numbered as their first rows come: their keys and what is gathered of each, a column each. */
class Groups {
  readonly columns: readonly Column[];
  readonly keys: readonly Value[][];
  /** The number of a group by the values of its keys. */
  readonly find: (...key: Value[]) => number;
  size = 0;
  private readonly numbers: TupleNumbers;
  private room = 0;

  constructor({ keys = [], measures, input }: Group) {
    this.columns = measures.map(({ aggregate, argument }) => {
      return columnFor[aggregate](argument === undefined ? () => 0 : ownedByValue(argument, input));
    });
    this.keys = keys.map(() => []);
    this.numbers = new TupleNumbers(keys.map(({ expression }) => ownedByValue(expression, input)));
    this.find = this.finder(keys.length);
  }

  /** Without a list being made for each row where there are few keys. */
  private finder(keys: number): (...key: Value[]) => number {
    const { numbers } = this;
    const { numberOf } = numbers;
    if (keys === 1) {
      return (a) => {
        const group = numberOf(a);
        return group < this.size ? group : this.add(group, [a]);
      };
    }
    if (keys === 2) {
      return (a, b) => {
        const group = numberOf(a, b);
        return group < this.size ? group : this.add(group, [a, b]);
      };
    }
    return (...key) => {
      const group = numberOf(...key);
      return group < this.size ? group : this.add(group, key);
    };
  }

  private add(group: number, key: readonly Value[]): number {
    this.size = group + 1;
    if (this.size > this.room) {
      this.room = Math.max(fewestGroups, this.room * 2);
      for (const column of this.columns) column.grow(this.room);
    }
    key.forEach((value, k) => this.keys[k]!.push(typeof value === 'string' ? this.numbers.heldText(k, value) : value));
    return group;
  }

  /** Bytes. */
  get held(): number {
    let bytes = this.numbers.held + this.size * this.keys.length * heldPerKey;
    for (const { held } of this.columns) bytes += held;
    return bytes;
  }
}

/** Makes the row of a group. */
function rowMaker({ keys = [], measures }: Group, groups: Groups, context: Context): (group: number) => Json {
  const percentages = measures.map(({ percentage }) => {
    const value = percentage && compileValue(percentage)({}, context);
    return typeof value === 'number' ? value : 50;
  });
  const targets = [...keys, ...measures].map(({ target }) => target);
  // A cell for each value of a row, filled anew for each: what is made for every group is looked through while others wait.
  const cells = targets.map((): Value[] => [undefined]);
  const fill = (group: number): void => {
    let at = 0;
    for (const values of groups.keys) cells[at++]![0] = values[group];
    for (let m = 0; m < groups.columns.length; m++) cells[at++]![0] = groups.columns[m]!.result(group, percentages[m]!);
  };
  const isFlat = targets.every((target) => target.length === 1) && new Set(targets.map(([name]) => name)).size === targets.length;
  if (isFlat) {
    const make = compileKeyRow(targets);
    return (group) => {
      fill(group);
      return make(cells, 0);
    };
  }
  const misplaced = (): void => undefined;
  return (group) => {
    fill(group);
    return cells.reduce<Json>((row, [value], i) => assigned(row, targets[i]!, value, misplaced), {} as JsonObject);
  };
}
