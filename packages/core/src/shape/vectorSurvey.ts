import type { Json } from '../values/json.ts';

/** Shorter arrays of numbers are taken for pairs, places and lists. */
const leastLength = 8;
const lengthsKept = 64;

/** Vectors, as arrays of numbers: how long they are, and how many arrays are otherwise. */
export interface Vectors {
  /** The commonest length. */
  readonly dimensions: number;
  readonly count: number;
  /** Arrays of other lengths, or with what is no number. */
  readonly others: number;
}

/** Gathers how long arrays of numbers are. */
export class VectorSurvey {
  private readonly lengths = new Map<number, number>();
  private arrays = 0;

  add(value: readonly Json[]): void {
    this.arrays++;
    if (value.length >= leastLength && value.every((one) => typeof one === 'number')) this.count(value.length, 1);
  }

  private count(length: number, times: number): void {
    const known = this.lengths.get(length);
    if (known !== undefined || this.lengths.size < lengthsKept) this.lengths.set(length, (known ?? 0) + times);
  }

  join(other: VectorSurvey): void {
    this.arrays += other.arrays;
    for (const [length, times] of other.lengths) this.count(length, times);
  }

  /** Undefined where most arrays are no vectors of one length. */
  info(): Vectors | undefined {
    const [first] = [...this.lengths].sort((a, b) => b[1] - a[1] || a[0] - b[0]);
    if (first === undefined || first[1] * 2 <= this.arrays) return undefined;
    return { dimensions: first[0], count: first[1], others: this.arrays - first[1] };
  }
}
