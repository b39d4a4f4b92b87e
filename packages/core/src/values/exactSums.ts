import { BigSum, roundedQuotient, unitBits, unitsOf } from './exactSum.ts';

/**
 * Many sums of numbers without error, side by side: what `ExactSum` is for one, in flat memory, since a group of a hundred
 * thousand would be as many objects.
 */
export class ExactSums {
  private high = new Float64Array(0);
  private low = new Float64Array(0);
  /** What does not fit into two doubles. */
  private readonly rests = new Map<number, BigSum>();

  /** Makes room for so many. */
  grow(sums: number): void {
    const [high, low] = [new Float64Array(sums), new Float64Array(sums)];
    high.set(this.high);
    low.set(this.low);
    this.high = high;
    this.low = low;
  }

  /** Begins one anew. */
  clear(at: number): void {
    this.high[at] = 0;
    this.low[at] = 0;
    this.rests.delete(at);
  }

  add(at: number, x: number): void {
    const high = this.high[at]!;
    const sum = high + x;
    const part = sum - high;
    const error = high - (sum - part) + (x - part);
    if (error === 0) this.high[at] = sum;
    else this.carry(at, x, sum, error);
  }

  private carry(at: number, x: number, sum: number, error: number): void {
    // Neither is finite where the sum is beyond a double, though what comes yet may bring it back.
    if (error - error !== 0) {
      this.restOf(at).add(x);
      return;
    }
    this.high[at] = sum;
    const before = this.low[at]!;
    const low = before + error;
    const part = low - before;
    const lost = before - (low - part) + (error - part);
    this.low[at] = low;
    if (lost !== 0) this.restOf(at).add(lost);
  }

  private restOf(at: number): BigSum {
    let rest = this.rests.get(at);
    if (rest === undefined) this.rests.set(at, (rest = new BigSum()));
    return rest;
  }

  /** The double nearest to a sum, ties to even; infinite where it is beyond a double. */
  valueOf(at: number): number {
    const rest = this.rests.get(at);
    if (rest === undefined) return this.high[at]! + this.low[at]!;
    return roundedQuotient(unitsOf(this.high[at]!) + unitsOf(this.low[at]!) + rest.units, 1n, unitBits);
  }

  /** A sum as it is before it is rounded. */
  wholeOf(at: number): readonly [high: number, low: number, rest?: string] {
    const rest = this.rests.get(at);
    return rest === undefined ? [this.high[at]!, this.low[at]!] : [this.high[at]!, this.low[at]!, String(rest.units)];
  }

  /** Adds another sum as it was before it was rounded. */
  addWhole(at: number, high: number, low: number, rest?: string): void {
    this.add(at, high);
    this.add(at, low);
    if (rest !== undefined) this.restOf(at).units += BigInt(rest);
  }

  /** Bytes. */
  get held(): number {
    return this.high.byteLength + this.low.byteLength + this.rests.size * heldPerRest;
  }
}

const heldPerRest = 200;
