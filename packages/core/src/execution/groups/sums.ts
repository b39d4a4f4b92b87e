import { Deviation } from '../../values/deviation.ts';
import { ExactSums } from '../../values/exactSums.ts';
import type { Json, Value } from '../../values/json.ts';
import { wholeSumOf, type WholeSum } from '../../values/wholeSums.ts';
import { grownFloats } from '../numbering/growing.ts';
import { finite, type Column } from './column.ts';

/** Exact sums of numbers, or their means; nothing of none. */
export class Sums implements Column {
  private readonly sums = new ExactSums();
  private counts = new Float64Array(0);
  private readonly isMean: boolean;

  constructor(isMean: boolean) {
    this.isMean = isMean;
  }
  grow(groups: number): void {
    this.sums.grow(groups);
    this.counts = grownFloats(this.counts, groups);
  }
  add(group: number, value: Json): void {
    this.sums.add(group, value as number);
    this.counts[group]!++;
  }
  addKept(group: number, row: Value, measure: number): void {
    const [count, ...whole] = wholeSumOf(row!, measure);
    this.sums.addWhole(group, ...whole);
    this.counts[group]! += count;
  }
  wholeOf(group: number): WholeSum {
    return [this.counts[group]!, ...this.sums.wholeOf(group)];
  }
  result(group: number): Value {
    const count = this.counts[group]!;
    if (count === 0) return undefined;
    const sum = this.sums.valueOf(group);
    return finite(this.isMean ? sum / count : sum);
  }
  get held(): number {
    return this.sums.held + this.counts.byteLength;
  }
}

const heldPerDeviation = 160;

/** Standard deviations of samples. */
export class Deviations implements Column {
  private readonly deviations: (Deviation | undefined)[] = [];
  held = 0;

  grow(): void {
    // Each is made when its first number comes.
  }
  add(group: number, value: Json): void {
    let deviation = this.deviations[group];
    if (deviation === undefined) {
      this.deviations[group] = deviation = new Deviation();
      this.held += heldPerDeviation;
    }
    deviation.add(value as number);
  }
  result(group: number): Value {
    const deviation = this.deviations[group];
    return deviation && finite(deviation.value);
  }
}
