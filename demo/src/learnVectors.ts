import { writeFileSync } from 'node:fs';
import { analyserOf } from '@zesty-sieve/core';
import { network } from './network.ts';

/*
 * Learns vectors of words from the demo's reports by random indexing (Kanerva 2000, Sahlgren 2005): each word has a sparse vector of its
 * own at random, and means the sum of those of its neighbours. `node demo/dist/learnVectors.js` writes them into the core, once.
 */
const dimensions = 64;
const passes = 1;
const learntFrom = 60_000;
const leastOccurrences = 40;

function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193);
  return value >>> 0;
}
/** Four places of a sparse vector, with their signs. */
const sparse = (word: string): readonly (readonly [number, 1 | -1])[] =>
  ['a', 'b', 'c', 'd'].map((salt) => {
    const value = hash(salt + word);
    return [value % dimensions, (value >>> 16) & 1 ? 1 : -1] as const;
  });

const { document } = network(1).find(({ name }) => name === 'reports')!;
const counts = new Map<string, number>();
const sentences: string[][] = [];
for (let i = 0; i < learntFrom; i++)
  for (const sentence of (document(i)['text'] as string).split(/(?<=[.;])\s+/)) {
    const stems: string[] = [];
    analyserOf('english').eachTerm(sentence, (stem) => stems.push(stem));
    for (const stem of stems) counts.set(stem, (counts.get(stem) ?? 0) + 1);
    sentences.push(stems);
  }
/** How often two words stand in one sentence. */
const together = new Map<string, Map<string, number>>();
let pairs = 0;
for (const stems of sentences)
  stems.forEach((stem, at) => {
    let own = together.get(stem);
    if (own === undefined) together.set(stem, (own = new Map<string, number>()));
    stems.forEach((other, place) => {
      if (place === at) return;
      own.set(other, (own.get(other) ?? 0) + 1);
      pairs++;
    });
  });
const occurring = [...counts].filter(([, count]) => count >= leastOccurrences).map(([stem]) => stem).sort(); // prettier-ignore
const sums = new Map(occurring.map((stem) => [stem, [...together.get(stem)!.values()].reduce((sum, one) => sum + one, 0)]));
/** Neighbours that are met more often than chance would have it, by how much more (positive pointwise mutual information). */
const neighbours = (stem: string): readonly (readonly [string, number])[] =>
  [...together.get(stem)!].flatMap(([other, count]) => {
    const expected = (sums.get(stem)! * (sums.get(other) ?? Infinity)) / pairs;
    return count > expected ? [[other, Math.log(count / expected)] as const] : [];
  });

function added(weights: readonly (readonly [string, number])[], vectorOf: (word: string) => readonly number[] | undefined): number[] {
  const made = new Array<number>(dimensions).fill(0);
  for (const [word, weight] of weights) vectorOf(word)?.forEach((one, d) => void (made[d]! += weight * one));
  return normalized(made);
}
function normalized(vector: readonly number[]): number[] {
  const length = Math.hypot(...vector) || 1;
  return vector.map((one) => one / length);
}
function random(word: string): readonly number[] {
  const made = new Array<number>(dimensions).fill(0);
  for (const [place, sign] of sparse(word)) made[place]! += sign;
  return made;
}
// Once by the neighbours' random vectors, then by what they have come to mean: words that share no neighbour share those of neighbours.
let meaning = new Map(occurring.map((stem) => [stem, added(neighbours(stem), random)]));
for (let pass = 0; pass < passes; pass++) meaning = new Map(occurring.map((stem) => [stem, normalized(added(neighbours(stem), (one) => meaning.get(one)).map((one, d) => one + meaning.get(stem)![d]!))])); // prettier-ignore
const unit = [...meaning];
// What all words have in common tells none from another.
const mean = new Array<number>(dimensions).fill(0);
for (const [, own] of unit) own.forEach((one, d) => void (mean[d]! += one / unit.length));
const lines = unit.map(([stem, own]) => {
  const centred = normalized(own.map((one, d) => one - mean[d]!));
  const largest = Math.max(...centred.map(Math.abs));
  return `${stem} ${centred.map((one) => (Math.round((one / largest) * 127) + 128).toString(16).padStart(2, '0')).join('')}`;
});
writeFileSync(
  new URL('../../packages/core/src/words/wordVectors.ts', import.meta.url),
  `/* eslint-disable max-lines -- a table */
/** Vectors of words by their stems, learnt from the demo's reports (\`demo/src/learnVectors.ts\`): two digits a number, from 128. */
const learnt = \`
${lines.join('\n')}
\`;

/** Vectors of words by their stems, of length 1 each. */
export const wordVectors: ReadonlyMap<string, readonly number[]> = new Map(
  learnt
    .trim()
    .split('\\n')
    .map((line) => {
      const [stem = '', digits = ''] = line.split(' ');
      const numbers = (digits.match(/../g) ?? []).map((two) => parseInt(two, 16) - 128);
      const length = Math.sqrt(numbers.reduce((sum, one) => sum + one * one, 0));
      return [stem, numbers.map((one) => one / length)] as const;
    }),
);
`,
);
process.stdout.write(`${lines.length} words\n`);
