/** How far two vectors are apart, the less, the nearer: the dot product with a minus, or the sum of the squares of differences. */
export type Apart = 'dot' | 'squares';

/** What a vector is compared with others by: the number of one that is kept, or the one that was asked for. */
export const asked = -1;

/** So many numbers of vectors can be listed at a time. */
export const mostListed = 4_096;

/** Vectors of one length, packed in 32 bits a number, and how far they are apart. */
export interface PackedVectors {
  /** Numbers of vectors that are to be compared, and what came of it, at the same places. */
  readonly list: Int32Array;
  readonly out: Float32Array;
  readonly bytes: number;
  /** Makes room for so many. */
  readonly room: (count: number) => void;
  readonly put: (number: number, vector: ArrayLike<number>) => void;
  /** The numbers of one, as long as no room is made. */
  readonly at: (number: number) => Float32Array;
  /** Takes up the vector that is asked for. */
  readonly ask: (vector: ArrayLike<number>) => void;
  /** How far a vector is from the first `count` of `list`. */
  readonly listed: (from: number, count: number) => void;
  /** How far what was asked for is from `count` that stand one after another, `mostListed` or fewer. */
  readonly following: (first: number, count: number) => void;
  /** Whether one of the first `count` of `list` is nearer to a vector than `limit`; how many were compared, with a minus where one is. */
  readonly nearer: (from: number, count: number, limit: number) => number;
}
