import { cosineSimilarity, dotProduct, euclideanDistance } from '../../words/vectors.ts';
import type { Value } from '../../values/json.ts';
import type { Metric } from '../definition.ts';
import type { Scored, ScoreOptions } from '../kind.ts';
import { firstOf } from '../scores.ts';
import type { VectorIndex } from './vectorIndex.ts';

const always = (): boolean => true;
/** 32 bits hold 24 of a number: what that may make of a score, with room to spare. */
const rounding = 1e-6;

/** The score as the functions give it, from the document's own numbers. */
function exactScore(metric: Metric, own: Value, vector: Value): number | undefined {
  if (metric === 'cosine') return cosineSimilarity(own, vector);
  if (metric === 'dot') return dotProduct(own, vector);
  const apart = euclideanDistance(own, vector);
  return apart === undefined ? undefined : -apart;
}

/** How documents score against a vector, by the index's metric. */
export function scoredVectors(index: VectorIndex, asked: Value, { read, effort, size }: Omit<ScoreOptions, 'valueOf'>): Scored {
  const { metric } = index.definition.vector!;
  const query = index.packed(asked);
  const scoreOf = (position: number): number | undefined => exactScore(metric, read(position), asked);
  const before = index.graph.compared;
  return {
    get entries() {
      return index.graph.compared - before;
    },
    at: scoreOf,
    *bestFirst(accepts = always) {
      // Another length than the index has, or numbers that it cannot hold: every document is looked at.
      if (query === undefined)
        yield* inOrder(
          Array.from({ length: size }, (_, position) => position),
          scoreOf,
        );
      else if (effort === undefined) yield* exactly(index, query, metric, scoreOf);
      else yield* inOrder([...index.nearest(query, effort, accepts), ...[...index.odd].filter(accepts)], scoreOf);
    },
  };
}

function inOrder(positions: readonly number[], scoreOf: (position: number) => number | undefined): (readonly [number, number])[] {
  const scored = positions.flatMap((position) => {
    const score = scoreOf(position);
    return score === undefined ? [] : [[position, score] as const];
  });
  return scored.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
}

/** All of them, best first: packed numbers tell which may be among the best, and their documents which are. */
function* exactly(index: VectorIndex, query: Float32Array, metric: Metric, scoreOf: (position: number) => number | undefined): Generator<readonly [number, number]> {
  const positions: number[] = [];
  const distances = new Float64Array(index.graph.count);
  index.everyDistance(query, (position, distance) => {
    distances[positions.length] = distance;
    positions.push(position);
  });
  const numbers = Array.from(positions, (_, i) => i);
  const length = Math.sqrt(query.reduce((sum, one) => sum + one * one, 0));
  const slack = metric === 'cosine' ? 8 * rounding : metric === 'dot' ? rounding * length * index.greatest : rounding * (length + index.greatest);
  const given = new Set<number>();
  for (let most = 128; ; most *= 8) {
    const first = firstOf(numbers, Math.min(most, numbers.length), (a, b) => distances[a]! - distances[b]! || a - b);
    const last = distances[first[first.length - 1]!];
    const bound = first.length === numbers.length || last === undefined ? -Infinity : (metric === 'euclidean' ? -Math.sqrt(last) : -last) + slack;
    for (const one of inOrder([...first.map((i) => positions[i]!), ...index.odd], scoreOf)) {
      if (one[1] <= bound) break;
      if (given.has(one[0])) continue;
      given.add(one[0]);
      yield one;
    }
    if (first.length === numbers.length) return;
  }
} // prettier-ignore
