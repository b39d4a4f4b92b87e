import { compileValue } from '../../expressions/compile.ts';
import { compileGroup, type GroupTally } from '../../expressions/compileGroup.ts';
import { compileKeyRow } from '../../expressions/compileKeyRow.ts';
import type { Context, Site } from '../../expressions/context.ts';
import type { Measure } from '../../language/stages/stage.ts';
import type { Group } from '../../planner/physical.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { shellBytes } from '../../values/size.ts';
import { columns as columnFor, numeric } from '../groups/columns.ts';
import type { Column } from '../groups/column.ts';
import { TupleNumbers } from '../numbering/tupleNumbers.ts';
import { ownedBytes, ownedByValue } from '../ownership.ts';
import { stillWorking } from '../batch.ts';
import { assigned } from './compute.ts';
import { pulled, type Operator } from '../runtime.ts';

const largestBatch = 2_048;
/** Rows, or elements of them, that are taken in before others get their turn. */
const atOnce = 2_048;
const fewestGroups = 16;
/** A key's place in its column. */
const heldPerKey = 10;

export const group: Operator<Group> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { measures, unnested } = step;
  const groups = new Groups(step);
  const kernel = compileGroup({
    keys: (step.keys ?? []).map(({ expression }) => expression),
    measures: measures.map((measure) => ({
      argument: measure.argument,
      isCondition: measure.aggregate === 'any' || measure.aggregate === 'every',
      numeric: numeric.has(measure.aggregate),
      where: measure.where,
      site: siteOf(measure),
    })),
    unnested,
  });
  // Everything is one group, even where there are no rows.
  if (step.keys === undefined) groups.find();
  const tally: GroupTally = { elements: 0, kept: 0 };
  // Fewer rows at a time where each has many elements.
  let size = 64;
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let from = 0; from < batch.rows.length;) {
      const to = Math.min(batch.rows.length, from + size);
      const before = tally.elements;
      kernel(batch.rows, { from, to }, groups, tally, context);
      const perRow = 1 + (tally.elements - before) / (to - from);
      size = Math.max(1, Math.min(size * 2, Math.floor(atOnce / perRow)));
      from = to;
      runMeter.hold(meter, groups.held - meter.held);
      watch.look(step);
    }
    yield stillWorking;
  }
  unnested?.stages.forEach((stage, i) => meter.inner.set(stage, i === 0 ? tally.elements : tally.kept));
  const rowOf = rowMaker(step, groups, context);
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
};

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

function siteOf(measure: Measure): Site {
  const { argument, id } = measure;
  return { id, text: (say) => say.measure(measure), operands: argument === undefined ? [] : [(say) => say.expression(argument)] };
}
