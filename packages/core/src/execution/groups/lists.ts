import type { Json, Value } from '../../values/json.ts';
import { grownFloats } from '../numbering/growing.ts';
import { Chains } from './chains.ts';
import type { Column, OwnedBy } from './column.ts';

/** Percentiles of numbers, between the two that are nearest; nothing of none. */
export class Percentiles implements Column {
  private readonly chains = new Chains();
  private numbers = new Float64Array(16);
  /** Where the numbers of one group are sorted: an array for each group would be as many objects as there are groups. */
  private scratch = new Float64Array(16);

  grow(groups: number): void {
    this.chains.grow(groups);
  }
  add(group: number, value: Json): void {
    const place = this.chains.append(group);
    if (place === this.numbers.length) this.numbers = grownFloats(this.numbers, place * 2);
    this.numbers[place] = value as number;
  }
  result(group: number, percentage: number): Value {
    const count = this.chains.countOf(group);
    if (count === 0) return undefined;
    if (count > this.scratch.length) this.scratch = new Float64Array(count * 2);
    const { scratch } = this;
    this.chains.read(group, this.numbers, scratch);
    sortFirst(scratch, count);
    const place = (Math.min(100, Math.max(0, percentage)) / 100) * (count - 1);
    const below = Math.floor(place);
    return between(scratch[below]!, scratch[Math.min(below + 1, count - 1)]!, place - below);
  }
  get held(): number {
    return this.chains.held + this.numbers.byteLength + this.scratch.byteLength;
  }
}

const insertedUpTo = 16;

/** Sorts the first numbers of an array, and leaves the others where they are. */
function sortFirst(numbers: Float64Array, count: number): void {
  if (count > insertedUpTo) {
    numbers.subarray(0, count).sort();
    return;
  }
  for (let i = 1; i < count; i++) {
    const number = numbers[i]!;
    let at = i;
    for (; at > 0 && numbers[at - 1]! > number; at--) numbers[at] = numbers[at - 1]!;
    numbers[at] = number;
  }
}

/** What lies at a share of the way from one number to another; their distance alone may be beyond a double. */
function between(a: number, b: number, share: number): number {
  const distance = b - a;
  return Number.isFinite(distance) ? a + distance * share : a * (1 - share) + b * share;
}

const heldPerValue = 12;

/** All values that came, in the order in which they did. */
export class Lists implements Column {
  private readonly chains = new Chains();
  private readonly values: Json[] = [];
  private readonly ownedBy: OwnedBy;
  private owned = 0;

  constructor(ownedBy: OwnedBy) {
    this.ownedBy = ownedBy;
  }
  grow(groups: number): void {
    this.chains.grow(groups);
  }
  add(group: number, value: Json): void {
    this.chains.append(group);
    this.values.push(value);
    this.owned += this.ownedBy(value);
  }
  result(group: number): Value {
    const own = new Array<Json>(this.chains.countOf(group));
    this.chains.read(group, this.values, own);
    return own;
  }
  get held(): number {
    return this.chains.held + this.values.length * heldPerValue + this.owned;
  }
}
