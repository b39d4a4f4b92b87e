import type { PackedVectors } from './vectors.ts';

/** A node with its distance from the one whose neighbours are chosen. */
export type Candidate = readonly [distance: number, node: number];

/**
 * Neighbours that lie in different directions: one that is nearer to another of them than to the middle adds little, and is taken only
 * where there is room left (Malkov and Yashunin 2016, algorithm 4).
 * @param candidates the nearest first
 */
export function chosenNeighbours(vectors: PackedVectors, candidates: readonly Candidate[], most: number): { readonly kept: number[]; readonly compared: number } {
  const kept: number[] = [];
  const passed: number[] = [];
  let compared = 0;
  for (const [distance, node] of candidates) {
    if (kept.length === most) break;
    const looked = vectors.nearer(node, kept.length, distance);
    compared += Math.abs(looked);
    if (looked < 0) passed.push(node);
    else {
      vectors.list[kept.length] = node;
      kept.push(node);
    }
  }
  for (const node of passed) {
    if (kept.length === most) break;
    kept.push(node);
  }
  return { kept, compared };
} // prettier-ignore
