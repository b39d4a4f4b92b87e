import type { Json, Value } from '../../values/json.ts';
import { PairTable } from '../numbering/pairTable.ts';
import { ValueNumbers } from '../numbering/valueNumbers.ts';
import { Chains } from './chains.ts';
import type { Column, OwnedBy } from './column.ts';
import { Counts } from './counts.ts';

/** How many different values came. */
export class DistinctCounts implements Column {
  private readonly numbers: ValueNumbers;
  private readonly pairs = new PairTable();
  private readonly counts = new Counts();
  /** As long as there is one group alone, all values are its own. */
  private hasSeveral = false;

  constructor(ownedBy: OwnedBy) {
    this.numbers = new ValueNumbers(ownedBy);
  }
  grow(groups: number): void {
    this.counts.grow(groups);
  }
  add(group: number, value: Json): void {
    const { numbers, pairs } = this;
    if (group === 0 && !this.hasSeveral) {
      const different = numbers.size;
      if (numbers.numberOf(value) === different) this.counts.add(0);
      return;
    }
    if (!this.hasSeveral) this.spread();
    const { size } = pairs;
    if (pairs.numberOf(group, numbers.numberOf(value)) === size) this.counts.add(group);
  }
  private spread(): void {
    for (let number = 0; number < this.numbers.size; number++) this.pairs.numberOf(0, number);
    this.hasSeveral = true;
  }
  result(group: number): Value {
    return this.counts.result(group);
  }
  get held(): number {
    return this.numbers.held + this.pairs.held + this.counts.held;
  }
}

const heldPerValue = 12;

/** The different values that came, each as it came first in its group. */
export class DistinctLists implements Column {
  private readonly numbers: ValueNumbers;
  private readonly pairs = new PairTable();
  private readonly chains = new Chains();
  private readonly values: Json[] = [];

  constructor(ownedBy: OwnedBy) {
    this.numbers = new ValueNumbers(ownedBy);
  }
  grow(groups: number): void {
    this.chains.grow(groups);
  }
  add(group: number, value: Json): void {
    const { size } = this.pairs;
    const number = this.numbers.numberOf(value);
    if (this.pairs.numberOf(group, number) !== size) return;
    this.chains.append(group);
    // Texts that are equal are held once.
    this.values.push(typeof value === 'string' ? (this.numbers.values[number] as string) : value);
  }
  result(group: number): Value {
    const own = new Array<Json>(this.chains.countOf(group));
    this.chains.read(group, this.values, own);
    return own;
  }
  get held(): number {
    return this.numbers.held + this.pairs.held + this.chains.held + this.values.length * heldPerValue;
  }
}
