import { ExactSum, roundedQuotient, unitBits, unitsOf } from './exactSum.ts';

/** Squares of numbers between these are two doubles together, without loss. */
const least = 2 ** -480;
const greatest = 2 ** 500;
const splitter = 2 ** 27 + 1;
const farthest = 2 ** 1_000;
const nearest = 2 ** -1_000;

/**
 * The standard deviation of a sample. The sum of the numbers and that of their squares are exact, so that it is the same in
 * whatever order they come; the variance is rounded once, and so is its root.
 */
export class Deviation {
  private count = 0n;
  private readonly sum = new ExactSum();
  private readonly squares = new ExactSum();
  /** Squares that two doubles do not hold, in units of 2^-2148. */
  private odd = 0n;

  add(x: number): void {
    this.count += 1n;
    this.sum.add(x);
    const size = Math.abs(x);
    if (x === 0) return;
    if (size < least || size > greatest) {
      this.odd += unitsOf(x) ** 2n;
      return;
    }
    // Dekker's product (1971): the square, and what it lost.
    const square = x * x;
    const scaled = splitter * x;
    const high = scaled - (scaled - x);
    const low = x - high;
    this.squares.add(square);
    this.squares.add(low * low - (square - high * high - 2 * high * low));
  }

  /** Not a number where there are fewer than two. */
  get value(): number {
    const { count } = this;
    if (count < 2n) return NaN;
    const units = this.sum.units;
    const squares = (this.squares.units << BigInt(unitBits)) + this.odd;
    const above = count * squares - units * units;
    const below = count * (count - 1n);
    const variance = roundedQuotient(above, below, 2 * unitBits);
    // A variance may be beyond a double where its root is not.
    if (variance > farthest) return Math.sqrt(roundedQuotient(above, below, 2 * unitBits + 1_200)) * 2 ** 600;
    if (variance < nearest) return Math.sqrt(roundedQuotient(above, below, 2 * unitBits - 1_200)) * 2 ** -600;
    return Math.sqrt(variance);
  }
}
