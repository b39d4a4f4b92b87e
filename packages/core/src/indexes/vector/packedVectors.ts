import { PlainVectors } from './plainVectors.ts';
import { SimdVectors } from './simdVectors.ts';
import type { Apart, PackedVectors } from './vectors.ts';

/** Below so many what is compared eight numbers at a time gains nothing, and takes memory by the page. */
const fewest = 1_000;

/** Vectors that are packed for so many of them; eight of their numbers are compared at a time where the host can. */
export function packedVectors(dimensions: number, apart: Apart, count: number): PackedVectors {
  return (count >= fewest ? SimdVectors.where(dimensions, apart) : undefined) ?? new PlainVectors(dimensions, apart);
}
