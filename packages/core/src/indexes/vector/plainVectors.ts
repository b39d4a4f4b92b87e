import { asked, mostListed, type Apart, type PackedVectors } from './vectors.ts';

type Measure = (a: Float32Array, from: number, b: Float32Array, at: number, dimensions: number) => number;

/** Four sums at a time: one alone would wait for each addition before the next. */
const measures: Readonly<Record<Apart, Measure>> = {
  dot: (a, from, b, at, dimensions) => {
    let [s, t, u, v] = [0, 0, 0, 0];
    let d = 0;
    for (; d + 3 < dimensions; d += 4) {
      s -= a[from + d]! * b[at + d]!;
      t -= a[from + d + 1]! * b[at + d + 1]!;
      u -= a[from + d + 2]! * b[at + d + 2]!;
      v -= a[from + d + 3]! * b[at + d + 3]!;
    }
    for (; d < dimensions; d++) s -= a[from + d]! * b[at + d]!;
    return s + t + (u + v);
  },
  squares: (a, from, b, at, dimensions) => {
    let [s, t] = [0, 0];
    let d = 0;
    for (; d + 1 < dimensions; d += 2) {
      const one = a[from + d]! - b[at + d]!;
      const other = a[from + d + 1]! - b[at + d + 1]!;
      s += one * one;
      t += other * other;
    }
    if (d < dimensions) s += (a[from + d]! - b[at + d]!) ** 2;
    return s + t;
  },
};

/** Vectors in an array of the language's own: in every host. */
export class PlainVectors implements PackedVectors {
  readonly list = new Int32Array(mostListed);
  readonly out = new Float32Array(mostListed);
  private readonly dimensions: number;
  private readonly measure: Measure;
  private vectors = new Float32Array(0);
  private question = new Float32Array(0);

  constructor(dimensions: number, apart: Apart) {
    this.dimensions = dimensions;
    this.measure = measures[apart];
  }

  get bytes(): number {
    return this.vectors.byteLength;
  }
  room(count: number): void {
    if (count * this.dimensions <= this.vectors.length) return;
    const vectors = new Float32Array(count * this.dimensions);
    vectors.set(this.vectors);
    this.vectors = vectors;
  }
  put(number: number, vector: ArrayLike<number>): void {
    this.vectors.set(vector, number * this.dimensions);
  }
  at(number: number): Float32Array {
    return this.vectors.subarray(number * this.dimensions, (number + 1) * this.dimensions);
  }
  ask(vector: ArrayLike<number>): void {
    this.question = Float32Array.from(vector);
  }

  listed(from: number, count: number): void {
    for (let k = 0; k < count; k++) this.out[k] = this.apart(from, this.list[k]!);
  }
  following(first: number, count: number): void {
    for (let k = 0; k < count; k++) this.out[k] = this.apart(asked, first + k);
  }
  nearer(from: number, count: number, limit: number): number {
    for (let k = 0; k < count; k++) if (this.apart(from, this.list[k]!) < limit) return -(k + 1);
    return count;
  }
  private apart(from: number, to: number): number {
    const { vectors, question, dimensions } = this;
    return from === asked
      ? this.measure(question, 0, vectors, to * dimensions, dimensions)
      : this.measure(vectors, from * dimensions, vectors, to * dimensions, dimensions);
  }
}
