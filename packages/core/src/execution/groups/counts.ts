import type { Value } from '../../values/json.ts';
import { grownFloats } from '../numbering/growing.ts';
import type { Column } from './column.ts';

/** How many came. */
export class Counts implements Column {
  private counts = new Float64Array(0);

  grow(groups: number): void {
    this.counts = grownFloats(this.counts, groups);
  }
  add(group: number): void {
    this.counts[group]!++;
  }
  addKept(group: number, count: Value): void {
    if (typeof count === 'number') this.counts[group]! += count;
  }
  result(group: number): Value {
    return this.counts[group];
  }
  get held(): number {
    return this.counts.byteLength;
  }
}

/** Whether any was true, or every one was. */
export class Holding implements Column {
  private readonly beginsWith: boolean;
  /** Whether what it begins with has been turned. */
  private turned = new Uint8Array(0);

  /** @param beginsWith what it is where none came, until one comes that is the other */
  constructor(beginsWith: boolean) {
    this.beginsWith = beginsWith;
  }
  grow(groups: number): void {
    const longer = new Uint8Array(groups);
    longer.set(this.turned);
    this.turned = longer;
  }
  add(group: number, value: unknown): void {
    if ((value === true) !== this.beginsWith) this.turned[group] = 1;
  }
  result(group: number): Value {
    return (this.turned[group] === 1) !== this.beginsWith;
  }
  get held(): number {
    return this.turned.byteLength;
  }
}
