/** How far two vectors are apart: the less, the nearer. */
export type Apart = 'dot' | 'squares';

export type Measure = (a: Float32Array, from: number, b: Float32Array, at: number, dimensions: number) => number;

/** Four sums at a time: one alone would wait for each addition before the next. */
export const measures: Readonly<Record<Apart, Measure>> = {
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
