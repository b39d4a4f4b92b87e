import type { Json, Value } from '../../values/json.ts';
import { compareValues } from '../../values/order.ts';
import type { Column, OwnedBy } from './column.ts';

const heldPerPick = 12;

/** One of the values that came. */
abstract class Picks implements Column {
  protected readonly picked: Value[] = [];
  private readonly ownedBy: OwnedBy;
  private owned = 0;

  constructor(ownedBy: OwnedBy) {
    this.ownedBy = ownedBy;
  }
  grow(groups: number): void {
    while (this.picked.length < groups) this.picked.push(undefined);
  }
  abstract add(group: number, value: Json): void;
  protected pick(group: number, value: Json): void {
    const before = this.picked[group];
    if (before !== undefined) this.owned -= this.ownedBy(before);
    this.owned += this.ownedBy(value);
    this.picked[group] = value;
  }
  result(group: number): Value {
    return this.picked[group];
  }
  get held(): number {
    return this.picked.length * heldPerPick + this.owned;
  }
}

/** The least or the greatest, by the order of all values. */
export class Extremes extends Picks {
  private readonly sign: 1 | -1;

  /** @param sign 1 for the greatest */
  constructor(ownedBy: OwnedBy, sign: 1 | -1) {
    super(ownedBy);
    this.sign = sign;
  }
  add(group: number, value: Json): void {
    const there = this.picked[group];
    if (there === undefined) this.pick(group, value);
    else if (typeof value === 'number' && typeof there === 'number') {
      if (this.sign > 0 ? value > there : value < there) this.pick(group, value);
    } else if (compareValues(value, there) * this.sign > 0) this.pick(group, value);
  }
}

export class Firsts extends Picks {
  add(group: number, value: Json): void {
    if (this.picked[group] === undefined) this.pick(group, value);
  }
}

export class Lasts extends Picks {
  add(group: number, value: Json): void {
    this.pick(group, value);
  }
}
