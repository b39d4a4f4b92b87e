import type { AggregateName } from '../language/functions/aggregates.ts';
import { Deviation } from '../values/deviation.ts';
import { ExactSum } from '../values/exactSum.ts';
import { keyOf, type MapKey } from '../values/keys.ts';
import type { Json, Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { arrayBytes, textBytes } from '../values/size.ts';

/** What one measure gathers of one group. Only values that count are added; `held` says the bytes that it takes by itself. */
export interface Gathering {
  add(value: Json): void;
  result(percentage: number): Value;
  readonly held: number;
}

/** What all groups hold of one measure beside that, and how much of each value is the run's own. */
export interface Account {
  held: number;
  readonly ownedBy: (value: Json) => number;
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
  private readonly sum = new ExactSum();
  private n = 0;
  readonly held = 64;
  add(value: Json): void {
    this.sum.add(value as number);
    this.n++;
  }
  result(): Value {
    return this.n === 0 ? undefined : finite(this.sum.value);
  }
}

class Mean implements Gathering {
  private readonly sum = new ExactSum();
  private n = 0;
  readonly held = 64;
  add(value: Json): void {
    this.sum.add(value as number);
    this.n++;
  }
  result(): Value {
    return this.n === 0 ? undefined : finite(this.sum.value / this.n);
  }
}

class Spread implements Gathering {
  private readonly deviation = new Deviation();
  readonly held = 160;
  add(value: Json): void {
    this.deviation.add(value as number);
  }
  result(): Value {
    return finite(this.deviation.value);
  }
}

/** One of the values that came. */
abstract class Picked implements Gathering {
  protected value: Value;
  private readonly account: Account;
  readonly held = 48;
  constructor(account: Account) {
    this.account = account;
  }
  protected pick(value: Json): void {
    const { account } = this;
    if (this.value !== undefined) account.held -= account.ownedBy(this.value);
    account.held += account.ownedBy(value);
    this.value = value;
  }
  abstract add(value: Json): void;
  result(): Value {
    return this.value;
  }
}

class Extreme extends Picked {
  private readonly sign: 1 | -1;
  constructor(account: Account, sign: 1 | -1) {
    super(account);
    this.sign = sign;
  }
  add(value: Json): void {
    if (this.value === undefined) this.pick(value);
    else if (typeof value === 'number' && typeof this.value === 'number') {
      if (this.sign > 0 ? value > this.value : value < this.value) this.pick(value);
    } else if (compareValues(value, this.value) * this.sign > 0) this.pick(value);
  }
}

/** What a list takes when its first value comes, and for each that it has no room for: some more than it needs, as it grows in strides. */
const firstRoom = arrayBytes(1) - arrayBytes(0);
const furtherRoom = 10;
function roomFor(length: number): number {
  return length === 0 ? firstRoom : arrayBytes(length + 1) === arrayBytes(length) ? 0 : furtherRoom;
}

class Percentile implements Gathering {
  private readonly values: number[] = [];
  private readonly account: Account;
  readonly held = 64;
  constructor(account: Account) {
    this.account = account;
  }
  add(value: Json): void {
    this.account.held += roomFor(this.values.length);
    this.values.push(value as number);
  }
  result(percentage: number): Value {
    if (this.values.length === 0) return undefined;
    const sorted = Float64Array.from(this.values).sort();
    const place = (Math.min(100, Math.max(0, percentage)) / 100) * (sorted.length - 1);
    const below = Math.floor(place);
    return between(sorted[below], sorted[Math.min(below + 1, sorted.length - 1)], place - below);
  }
}

class Collect implements Gathering {
  private readonly values: Json[] = [];
  private readonly account: Account;
  readonly held = 64;
  constructor(account: Account) {
    this.account = account;
  }
  add(value: Json): void {
    this.account.held += roomFor(this.values.length) + this.account.ownedBy(value);
    this.values.push(value);
  }
  result(): Value {
    return this.values;
  }
}

/** What an entry of a set takes. */
const heldPerEntry = 60;

class Distinct implements Gathering {
  private readonly values = new Map<MapKey, Json>();
  private readonly account: Account;
  private readonly counts: boolean;
  readonly held = 200;
  constructor(account: Account, counts: boolean) {
    this.account = account;
    this.counts = counts;
  }
  add(value: Json): void {
    const key = keyOf(value);
    if (this.values.has(key)) return;
    this.values.set(key, value);
    this.account.held += heldPerEntry + this.account.ownedBy(value) + (key === value ? 0 : textBytes(String(key)));
  }
  result(): Value {
    return this.counts ? this.values.size : [...this.values.values()];
  }
}

class First extends Picked {
  add(value: Json): void {
    if (this.value === undefined) this.pick(value);
  }
}

class Last extends Picked {
  add(value: Json): void {
    this.pick(value);
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

/** What lies at a share of the way from one number to another; their distance alone may be beyond a double. */
function between(a: number, b: number, share: number): number {
  const distance = b - a;
  return Number.isFinite(distance) ? a + distance * share : a * (1 - share) + b * share;
}

function finite(value: number): Value {
  return Number.isFinite(value) ? value : undefined;
}

/** Aggregates of numbers: others are passed over, and counted as values that could not be used. */
export const numeric: ReadonlySet<AggregateName> = new Set(['sum', 'avg', 'median', 'percentile', 'stddev']);

/** Makes what gathers one measure of one group. */
export const gatherings: { readonly [A in AggregateName]: (account: Account) => Gathering } = {
  count: () => new Count(),
  count_distinct: (account) => new Distinct(account, true),
  sum: () => new Sum(),
  avg: () => new Mean(),
  min: (account) => new Extreme(account, -1),
  max: (account) => new Extreme(account, 1),
  median: (account) => new Percentile(account),
  percentile: (account) => new Percentile(account),
  stddev: () => new Spread(),
  collect: (account) => new Collect(account),
  collect_distinct: (account) => new Distinct(account, false),
  first: (account) => new First(account),
  last: (account) => new Last(account),
  any: () => new Any(),
  every: () => new Every(),
};
