import { cosinesWith, dotProduct, euclideanDistance } from '../../words/vectors.ts';
import type { Value } from '../../values/json.ts';
import type { Metric } from '../definition.ts';
import type { Scored, ScoreOptions } from '../kind.ts';
import { DistanceHeap } from './heap.ts';
import type { VectorIndex } from './vectorIndex.ts';

const always = (): boolean => true;
/** 32 bits hold 24 of a number: what that may make of a score, with room to spare. */
const rounding = 1e-6;

/** Scores as the functions give them, from documents' own numbers. */
function exactScores(metric: Metric, vector: Value): (own: Value) => number | undefined {
  if (metric === 'cosine') return cosinesWith(vector);
  if (metric === 'dot') return (own) => dotProduct(own, vector);
  return (own) => {
    const apart = euclideanDistance(own, vector);
    return apart === undefined ? undefined : -apart;
  };
}

/** How documents score against a vector, by the index's metric. */
export function scoredVectors(index: VectorIndex, asked: Value, { read, effort, size }: Omit<ScoreOptions, 'valueOf'>): Scored {
  const { metric } = index.definition.vector!;
  const query = index.packed(asked);
  const exact = exactScores(metric, asked);
  const scoreOf = (position: number): number | undefined => exact(read(position));
  let entries = 0;
  return {
    get entries() {
      return entries;
    },
    at: scoreOf,
    *bestFirst(accepts = always) {
      // Another length than the index has, or numbers that it cannot hold: every document is looked at.
      if (query === undefined)
        yield* inOrder(
          Array.from({ length: size }, (_, position) => position),
          scoreOf,
        );
      else if (effort === undefined) {
        entries += index.entries;
        yield* exactly(index, query, scoreOf);
      } else {
        index.linkSome();
        const before = index.graph.compared;
        const near = index.nearest(query, effort, accepts);
        entries += index.graph.compared - before;
        yield* inOrder([...near, ...[...index.odd].filter(accepts)], scoreOf);
      }
    },
  };
}

function inOrder(positions: readonly number[], scoreOf: (position: number) => number | undefined): (readonly [number, number])[] {
  const scored: (readonly [number, number])[] = [];
  for (const position of positions) {
    const score = scoreOf(position);
    if (score !== undefined) scored.push([position, score]);
  }
  return scored.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
}

/** All of them, best first: packed numbers tell which may be among the best, and their documents which are. */
function* exactly(index: VectorIndex, query: Float32Array, scoreOf: (position: number) => number | undefined): Generator<readonly [number, number]> {
  const { distances, positions } = index.everyDistance(query);
  const given = new Set<number>();
  for (let most = 128; ; most *= 8) {
    const first = leastOf(distances, positions, most);
    const last = first.length < most ? undefined : distances[first.at(-1)!];
    const bound = last === undefined ? -Infinity : greatestBeyond(index, query, last);
    for (const one of inOrder([...first.map((node) => positions[node]!), ...index.odd], scoreOf)) {
      if (one[1] <= bound) break;
      if (given.has(one[0])) continue;
      given.add(one[0]);
      yield one;
    }
    if (last === undefined) return;
  }
} // prettier-ignore

/** What a document may score at most whose packed numbers are as far away as this, or farther. */
function greatestBeyond({ definition, greatest, graph }: VectorIndex, query: Float32Array, distance: number): number {
  const { metric } = definition.vector!;
  const length = Math.sqrt(query.reduce((sum, one) => sum + one * one, 0));
  // Sums of 32 bits, in eight parts: each addition may lose half of the last bit (Higham 2002, 3.1).
  const summing = (graph.dimensions / 8 + 16) * 2 ** -23;
  if (metric === 'cosine') return -distance + 8 * rounding + summing;
  if (metric === 'dot') return -distance + (rounding + summing) * length * greatest;
  return -Math.sqrt(distance) * (1 - summing) + rounding * (length + greatest);
}

/** The nodes of documents that are nearest, in that order; all of them where there are fewer. */
function leastOf(distances: Float32Array, positions: readonly number[], most: number): number[] {
  const heap = new DistanceHeap('greatest');
  for (let node = 0; node < distances.length; node++) {
    if (positions[node]! < 0) continue;
    if (heap.size === most) {
      if (distances[node]! >= heap.firstDistance) continue;
      heap.pop();
    }
    heap.push(distances[node]!, node);
  }
  const nodes: number[] = [];
  for (; heap.size > 0; heap.pop()) nodes.push(heap.firstNode);
  return nodes.reverse();
}
