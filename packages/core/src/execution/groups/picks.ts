import type { Json, Value } from '../../values/json.ts';
import { compareValues, needsCodePoints } from '../../values/order.ts';
import { grownFloats } from '../numbering/growing.ts';
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

/** What a group's least or greatest is so far: numbers lie in flat memory; texts whose units are all below U+D800 compare as they are. */
const nothing = 0;
const number = 1;
const plainText = 2;
const other = 3;

/** The least or the greatest, by the order of all values. */
export class Extremes implements Column {
  private numbers = new Float64Array(0);
  private kinds = new Uint8Array(0);
  private readonly others: Value[] = [];
  private readonly ownedBy: OwnedBy;
  private owned = 0;
  private readonly sign: 1 | -1;

  /** @param sign 1 for the greatest */
  constructor(ownedBy: OwnedBy, sign: 1 | -1) {
    this.ownedBy = ownedBy;
    this.sign = sign;
  }
  grow(groups: number): void {
    this.numbers = grownFloats(this.numbers, groups);
    const longer = new Uint8Array(groups);
    longer.set(this.kinds);
    this.kinds = longer;
  }
  add(group: number, value: Json): void {
    const kind = this.kinds[group]!;
    if (kind === number && typeof value === 'number') {
      const there = this.numbers[group]!;
      if (this.sign > 0 ? value > there : value < there) this.numbers[group] = value;
    } else if (kind === plainText && typeof value === 'string') {
      const there = this.others[group] as string;
      if (this.sign > 0 ? value > there : value < there) this.pick(group, value);
    } else if (kind === nothing || compareValues(value, this.at(group)!) * this.sign > 0) this.pick(group, value);
  }
  private at(group: number): Value {
    return this.kinds[group] === number ? this.numbers[group] : this.others[group];
  }
  private pick(group: number, value: Json): void {
    const before = this.others[group];
    if (before !== undefined) this.owned -= this.ownedBy(before);
    if (typeof value === 'number') {
      this.kinds[group] = number;
      this.numbers[group] = value;
      if (before !== undefined) this.others[group] = undefined;
      return;
    }
    while (this.others.length <= group) this.others.push(undefined);
    this.kinds[group] = typeof value === 'string' && !needsCodePoints(value) ? plainText : other;
    this.others[group] = value;
    this.owned += this.ownedBy(value);
  }
  result(group: number): Value {
    return this.at(group);
  }
  get held(): number {
    return this.numbers.byteLength + this.kinds.byteLength + this.others.length * heldPerPick + this.owned;
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
