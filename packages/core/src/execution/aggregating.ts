import type { AggregateName } from '../language/functions/aggregates.ts';
import { hashKey } from '../values/equality.ts';
import type { Json, Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { estimateBytes } from '../values/size.ts';

/** What one measure gathers of one group. Only values that count are added; `held` says the bytes that they take. */
export interface Gathering {
  add(value: Json): void;
  result(percentage: number): Value;
  readonly held: number;
}

class Count implements Gathering {
  private n = 0;
  readonly held = 16;
  add(): void {
    this.n++;
  }
  result(): Value {
    return this.n;
  }
}

class Sum implements Gathering {
  private sum = 0;
  private n = 0;
  readonly held = 24;
  add(value: Json): void {
    this.sum += value as number;
    this.n++;
  }
  result(): Value {
    return this.n === 0 ? undefined : finite(this.sum);
  }
}

class Mean implements Gathering {
  private sum = 0;
  private n = 0;
  readonly held = 24;
  add(value: Json): void {
    this.sum += value as number;
    this.n++;
  }
  result(): Value {
    return this.n === 0 ? undefined : finite(this.sum / this.n);
  }
}

/** Welford's way, which does not lose small differences between large numbers (Knuth, TAOCP 2, 4.2.2). */
class Deviation implements Gathering {
  private n = 0;
  private mean = 0;
  private squares = 0;
  readonly held = 32;
  add(value: Json): void {
    this.n++;
    const difference = (value as number) - this.mean;
    this.mean += difference / this.n;
    this.squares += difference * ((value as number) - this.mean);
  }
  result(): Value {
    return this.n < 2 ? undefined : finite(Math.sqrt(this.squares / (this.n - 1)));
  }
}

class Extreme implements Gathering {
  private value: Value;
  private readonly sign: 1 | -1;
  readonly held = 24;
  constructor(sign: 1 | -1) {
    this.sign = sign;
  }
  add(value: Json): void {
    if (this.value === undefined) this.value = value;
    else if (typeof value === 'number' && typeof this.value === 'number') {
      if (this.sign > 0 ? value > this.value : value < this.value) this.value = value;
    } else if (compareValues(value, this.value) * this.sign > 0) this.value = value;
  }
  result(): Value {
    return this.value;
  }
}

class Percentile implements Gathering {
  private readonly values: number[] = [];
  get held(): number {
    return 32 + this.values.length * 8;
  }
  add(value: Json): void {
    this.values.push(value as number);
  }
  result(percentage: number): Value {
    if (this.values.length === 0) return undefined;
    const sorted = Float64Array.from(this.values).sort();
    const place = (Math.min(100, Math.max(0, percentage)) / 100) * (sorted.length - 1);
    const below = Math.floor(place);
    const above = Math.min(below + 1, sorted.length - 1);
    return sorted[below] + (sorted[above] - sorted[below]) * (place - below);
  }
}

class Collect implements Gathering {
  private readonly values: Json[] = [];
  get held(): number {
    return 32 + this.values.length * 8;
  }
  add(value: Json): void {
    this.values.push(value);
  }
  result(): Value {
    return this.values;
  }
}

class Distinct implements Gathering {
  private readonly values = new Map<string, Json>();
  private bytes = 48;
  private readonly counts: boolean;
  constructor(counts: boolean) {
    this.counts = counts;
  }
  get held(): number {
    return this.bytes;
  }
  add(value: Json): void {
    const key = hashKey(value);
    if (this.values.has(key)) return;
    this.values.set(key, value);
    this.bytes += 40 + estimateBytes(key);
  }
  result(): Value {
    return this.counts ? this.values.size : [...this.values.values()];
  }
}

class First implements Gathering {
  private value: Value;
  readonly held = 16;
  add(value: Json): void {
    this.value ??= value;
  }
  result(): Value {
    return this.value;
  }
}

class Last implements Gathering {
  private value: Value;
  readonly held = 16;
  add(value: Json): void {
    this.value = value;
  }
  result(): Value {
    return this.value;
  }
}

class Any implements Gathering {
  private holds = false;
  readonly held = 16;
  add(value: Json): void {
    if (value === true) this.holds = true;
  }
  result(): Value {
    return this.holds;
  }
}

class Every implements Gathering {
  private holds = true;
  readonly held = 16;
  add(value: Json): void {
    if (value !== true) this.holds = false;
  }
  result(): Value {
    return this.holds;
  }
}

function finite(value: number): Value {
  return Number.isFinite(value) ? value : undefined;
}

/** Aggregates of numbers: others are passed over, and counted as values that could not be used. */
export const numeric: ReadonlySet<AggregateName> = new Set(['sum', 'avg', 'median', 'percentile', 'stddev']);

/** Makes what gathers one measure of one group. */
export const gatherings: { readonly [A in AggregateName]: () => Gathering } = {
  count: () => new Count(),
  count_distinct: () => new Distinct(true),
  sum: () => new Sum(),
  avg: () => new Mean(),
  min: () => new Extreme(-1),
  max: () => new Extreme(1),
  median: () => new Percentile(),
  percentile: () => new Percentile(),
  stddev: () => new Deviation(),
  collect: () => new Collect(),
  collect_distinct: () => new Distinct(false),
  first: () => new First(),
  last: () => new Last(),
  any: () => new Any(),
  every: () => new Every(),
};
