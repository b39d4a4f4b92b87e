import { milliseconds } from '../../values/clock.ts';
import type { DocumentStore } from '../../storage/store.ts';
import { seededNumbers } from '../../values/seededNumbers.ts';
import type { ScoreOptions } from '../kind.ts';
import type { Recall, RecallAsked } from '../recall.ts';
import { scoredVectors } from './scored.ts';
import type { VectorIndex } from './vectorIndex.ts';

/** The same documents are asked for each time, so that two measurements differ by the index alone. */
const seed = 20_260_101;
/** How far a question lies from its document, as a share of the vector's length. */
const noise = 0.1;

/**
 * Asks for the neighbours of documents drawn at random, with a little noise, exactly and with each effort; yields the share that is
 * done. What scores as high as the last of the true best counts as one of them. Gives undefined where there are no vectors.
 */
export function* measureRecall(index: VectorIndex, store: DocumentStore, asked: RecallAsked): Generator<number, Recall | undefined> {
  const positions = index.positions;
  if (positions.length === 0) return undefined;
  const random = seededNumbers(seed);
  const queries = Math.min(asked.queries, positions.length);
  const ways = [undefined, ...asked.efforts];
  const sums = ways.map(() => ({ found: 0, compared: 0, timeMs: 0 }));
  for (let query = 0; query < queries; query++) {
    const drawn = positions[Math.floor(random() * positions.length)]!;
    const vector = noisy(index.valueOf(store.documents[drawn]), random);
    let least = -Infinity;
    let wanted = 0;
    for (const [way, effort] of ways.entries()) {
      const { scores, compared, timeMs } = best(index, store, vector, asked.n, effort);
      // The first way is the exact one, which says what is right.
      if (effort === undefined) {
        least = scores.at(-1) ?? -Infinity;
        wanted = scores.length;
      }
      const sum = sums[way]!;
      sum.found += scores.filter((score) => score >= least).length / Math.max(1, wanted);
      sum.compared += compared;
      sum.timeMs += timeMs;
      yield (query + (way + 1) / ways.length) / queries;
    }
  }
  const [exact, ...points] = sums.map(({ found, compared, timeMs }) => ({
    recall: found / queries,
    compared: Math.round(compared / queries),
    timeMs: timeMs / queries,
  }));
  return {
    n: asked.n,
    queries,
    points: points.map((point, i) => ({ effort: asked.efforts[i]!, ...point })),
    exact: { compared: exact!.compared, timeMs: exact!.timeMs },
  };
}

/** A vector beside another, in a direction at random. */
function noisy(vector: readonly number[], random: () => number): number[] {
  const length = Math.sqrt(vector.reduce((sum, one) => sum + one * one, 0));
  const away = vector.map(() => normal(random));
  const step = (noise * length) / (Math.sqrt(away.reduce((sum, one) => sum + one * one, 0)) || 1);
  return vector.map((one, i) => one + step * away[i]!);
}

/** A number of the normal distribution (Box and Muller 1958). */
function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/** The scores of the best, highest first, as the engine would find them. */
function best(index: VectorIndex, { documents }: DocumentStore, vector: number[], n: number, effort: number | undefined) {
  const started = milliseconds();
  const read: ScoreOptions['read'] = (position) => index.valueOf(documents[position]);
  const scored = scoredVectors(index, vector, { read, effort, size: documents.length });
  const scores: number[] = [];
  for (const [, score] of scored.bestFirst()) {
    scores.push(score);
    if (scores.length === n) break;
  }
  return { scores, compared: scored.entries, timeMs: milliseconds() - started };
}
