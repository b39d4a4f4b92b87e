import { analyserOf } from './analyse.ts';
import { wordVectors } from './wordVectors.ts';

/** How many numbers a vector has. */
export const dimensions = 64;
/** How much a word's own vector weighs beside its letters. */
const ownWeight = 3;

/** FNV-1a (Fowler, Noll, Vo), 32 bits. */
function hash(text: string): number {
  let value = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) value = Math.imul(value ^ text.charCodeAt(i), 0x01000193);
  return value >>> 0;
}

/** Adds a feature with the sign and at the place that its hash gives (Weinberger et al. 2009). */
function addHashed(feature: string, weight: number, into: number[]): void {
  const value = hash(feature);
  into[value % dimensions]! += (value >>> 16) & 1 ? weight : -weight;
}

/**
 * A vector of length 1 for the meaning of an English text: the stand-in for an embedding service. Stems and their groups of three letters
 * are hashed, and the vectors of known words are added. A text without words has zeros.
 */
export function vectorOf(text: string): number[] {
  if (last?.text !== text) last = { text, vector: made(text) };
  return last.vector;
}
/** A question asks for the same text with every row. */
let last: { readonly text: string; readonly vector: number[] } | undefined;

function made(text: string): number[] {
  const sum = new Array<number>(dimensions).fill(0);
  analyserOf('english').eachTerm(text, (stem) => {
    addHashed(stem, 1, sum);
    const framed = `^${stem}$`;
    const each = 1 / Math.sqrt(framed.length);
    for (let i = 0; i + 3 <= framed.length; i++) addHashed(framed.slice(i, i + 3), each, sum);
    const own = wordVectors.get(stem);
    if (own !== undefined) for (let i = 0; i < dimensions; i++) sum[i]! += ownWeight * own[i]!;
  });
  const length = Math.sqrt(sum.reduce((squares, one) => squares + one * one, 0));
  // Six digits: enough for a meaning, and no more than a document should hold of it.
  return length === 0 ? sum : sum.map((one) => Math.round((one / length) * 1e6) / 1e6);
}
