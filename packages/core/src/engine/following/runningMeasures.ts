import { compileCondition, compileValue } from '../../expressions/compile.ts';
import { compileKeyRow } from '../../expressions/compileKeyRow.ts';
import { makeContext, type Context } from '../../expressions/context.ts';
import type { AggregateName } from '../../language/functions/aggregates.ts';
import type { GroupStage, Measure } from '../../language/stages/stage.ts';
import { ExactSums } from '../../values/exactSums.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { keepWholeSums, type WholeSum } from '../../values/wholeSums.ts';
import { compareValues } from '../../values/order.ts';

/** One measure of all groups, from which a value can be taken out again. */
interface Running {
  add(group: number, value: Value): void;
  /** @returns whether what is left is known without looking at the others */
  remove(group: number, value: Value): boolean;
  reset(group: number): void;
  result(group: number): Value;
  wholeOf?(group: number): WholeSum;
}

const isThere = (value: Value): value is Json => value !== undefined && value !== null;

class Counted implements Running {
  protected readonly counts: number[] = [];
  add(group: number): void {
    this.counts[group] = (this.counts[group] ?? 0) + 1;
  }
  remove(group: number): boolean {
    this.counts[group]!--;
    return true;
  }
  reset(group: number): void {
    this.counts[group] = 0;
  }
  result(group: number): Value {
    return this.counts[group] ?? 0;
  }
}

/** Sums are without error, so that what was added can be taken out again (`values/exactSums.ts`). */
class Summed implements Running {
  private sums = new ExactSums();
  private room = 0;
  private readonly counts: number[] = [];
  private readonly isMean: boolean;

  constructor(isMean: boolean) {
    this.isMean = isMean;
  }
  add(group: number, value: Value): void {
    if (typeof value === 'number') this.take(group, value, 1);
  }
  remove(group: number, value: Value): boolean {
    if (typeof value === 'number') this.take(group, -value, -1);
    return true;
  }
  private take(group: number, value: number, count: 1 | -1): void {
    if (group >= this.room) this.sums.grow((this.room = Math.max(16, group + 1, this.room * 2)));
    this.sums.add(group, value);
    this.counts[group] = (this.counts[group] ?? 0) + count;
  }
  reset(group: number): void {
    if (group >= this.room || !this.counts[group]) return;
    this.sums.clear(group);
    this.counts[group] = 0;
  }
  result(group: number): Value {
    const count = this.counts[group] ?? 0;
    if (count === 0) return undefined;
    const sum = this.sums.valueOf(group);
    const value = this.isMean ? sum / count : sum;
    return Number.isFinite(value) ? value : undefined;
  }
  wholeOf(group: number): WholeSum {
    return group < this.room ? [this.counts[group] ?? 0, ...this.sums.wholeOf(group)] : [0, 0, 0];
  }
}

class Held implements Running {
  private readonly times: [held: number, not: number][] = [];
  private readonly isEvery: boolean;

  constructor(isEvery: boolean) {
    this.isEvery = isEvery;
  }
  add(group: number, value: Value): void {
    (this.times[group] ??= [0, 0])[value === true ? 0 : 1]++;
  }
  remove(group: number, value: Value): boolean {
    this.times[group]![value === true ? 0 : 1]--;
    return true;
  }
  reset(group: number): void {
    this.times[group] = [0, 0];
  }
  result(group: number): Value {
    const [held, not] = this.times[group] ?? [0, 0];
    return this.isEvery ? not === 0 : held > 0;
  }
}

/** The least or the greatest: once it goes, the others have to be looked at. */
class Extreme implements Running {
  private readonly picked: Value[] = [];
  private readonly sign: 1 | -1;

  constructor(sign: 1 | -1) {
    this.sign = sign;
  }
  add(group: number, value: Value): void {
    if (!isThere(value)) return;
    const there = this.picked[group];
    if (there === undefined || compareValues(value, there) * this.sign > 0) this.picked[group] = value;
  }
  remove(group: number, value: Value): boolean {
    return !isThere(value) || compareValues(value, this.picked[group] ?? null) !== 0;
  }
  reset(group: number): void {
    this.picked[group] = undefined;
  }
  result(group: number): Value {
    return this.picked[group];
  }
}

const running: Partial<Record<AggregateName, () => Running>> = {
  count: () => new Counted(),
  sum: () => new Summed(false),
  avg: () => new Summed(true),
  any: () => new Held(false),
  every: () => new Held(true),
  min: () => new Extreme(-1),
  max: () => new Extreme(1),
};

interface OneMeasure {
  readonly values: Running;
  readonly counts: (row: Json, context: Context) => boolean;
  readonly value: (row: Json, context: Context) => Value;
  readonly isNumeric: boolean;
  readonly picks: boolean;
}

/**
 * The measures of a group as running ones: a row is added or taken out in the time that this row takes, whatever the size of its group.
 * Only where every measure is one that goes on from what is kept.
 */
export class RunningMeasures {
  private readonly measures: readonly OneMeasure[];
  private readonly make: (keys: readonly (readonly Value[])[], at: number) => JsonObject;
  private readonly keyNames: readonly string[];
  context = makeContext({}, '');

  private constructor(group: GroupStage, made: readonly Running[]) {
    this.measures = group.measures.map((measure, m) => oneMeasure(measure, made[m]!));
    this.keyNames = group.keys.map(({ target }) => target[0]!);
    this.make = compileKeyRow([...group.keys, ...group.measures].map(({ target }) => target));
  }

  static of(group: GroupStage): RunningMeasures | undefined {
    const made = group.measures.flatMap(({ aggregate }) => running[aggregate]?.() ?? []);
    const targets = [...group.keys, ...group.measures].map(({ target }) => target);
    const isFlat = targets.every(({ length }) => length === 1) && new Set(targets.map(([name]) => name)).size === targets.length;
    return isFlat && made.length === group.measures.length ? new RunningMeasures(group, made) : undefined;
  }

  add(group: number, row: Json): void {
    for (const measure of this.measures) if (measure.counts(row, this.context)) measure.values.add(group, measure.value(row, this.context));
  }

  /** @returns whether the measures are known still; where not, the group has to be reset and its rows added anew */
  change(group: number, row: Json, isAdded: boolean): boolean {
    let isKnown = true;
    for (const { counts, value, values, isNumeric, picks } of this.measures) {
      if (!counts(row, this.context)) continue;
      const one = value(row, this.context);
      // Of what could not be used something has to be said; which of several equal objects comes first shows.
      if (isNumeric && isThere(one) && typeof one !== 'number') isKnown = false;
      else if (picks && isThere(one) && typeof one === 'object') isKnown = false;
      else if (isAdded) values.add(group, one);
      else if (!values.remove(group, one)) isKnown = false;
    }
    return isKnown;
  }

  reset(group: number): void {
    for (const { values } of this.measures) values.reset(group);
  }

  /** The row of a group. @param before an earlier one, which has the same keys */
  rowOf(group: number, before: JsonObject): JsonObject {
    const cells = [...this.keyNames.map((name) => [before[name]]), ...this.measures.map(({ values }) => [values.result(group)])];
    const row = this.make(cells, 0);
    if (this.measures.some(({ values }) => values.wholeOf !== undefined)) {
      const sums = this.measures.map(({ values }) => values.wholeOf?.(group) ?? null);
      keepWholeSums(row, sums);
    }
    return row;
  }
}

function oneMeasure({ aggregate, argument, where }: Measure, values: Running): OneMeasure {
  const condition = where && compileCondition(where);
  const isCondition = aggregate === 'any' || aggregate === 'every';
  return {
    values,
    counts: (row, context) => condition === undefined || condition(row, context),
    value: argument === undefined ? () => undefined : isCondition ? compileCondition(argument) : compileValue(argument),
    isNumeric: aggregate === 'sum' || aggregate === 'avg',
    picks: aggregate === 'min' || aggregate === 'max',
  };
}
