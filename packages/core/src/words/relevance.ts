import type { Value } from '../values/json.ts';
import { analyserOf, textsIn } from './analyse.ts';
import type { WordQuestion } from './question.ts';

/** What BM25 needs to know of a collection: of each path, and of each word in it. */
export interface TextStatistics {
  readonly paths: readonly {
    /** Documents that have a text there, an empty one too. */
    readonly documents: number;
    /** Words of all those texts, stop words left out. */
    readonly length: number;
    /** Documents that have each of the words that are asked for. */
    readonly having: readonly number[];
  }[];
}

const k1 = 1.2;
const b = 0.75;

/** How rare a word is: the logarithm of the odds that a document does not have it. */
export const inverseFrequency = (documents: number, having: number): number => Math.log(1 + (documents - having + 0.5) / (having + 0.5));

/** What one word of one path adds (Robertson and Zaragoza 2009). `mean` is not 0 where the word occurs. */
export const wordScore = (weight: number, rarity: number, frequency: number, length: number, mean: number): number =>
  weight * rarity * (frequency / (frequency + k1 * (1 - b + (b * length) / mean)));

/** How often each word that is asked for stands in a document's texts, and how many words those have. */
export function frequenciesIn(value: Value, { words, language }: WordQuestion, into: number[]): { readonly length: number; readonly isText: boolean } {
  into.fill(0);
  const { eachTerm } = analyserOf(language);
  let length = 0;
  const texts = textsIn(value);
  for (const text of texts)
    eachTerm(text, (term) => {
      length++;
      for (let w = 0; w < words.length; w++) if (words[w]!.meets(term)) into[w]!++;
    });
  return { length, isText: texts.length > 0 };
} // prettier-ignore

/**
 * BM25 of texts, one value a path: the sum over paths, in their order, and words, in theirs. *Nothing* where no word occurs in any path.
 * The sum is taken in that order everywhere, so that a score is the same number whoever worked it out.
 */
export function relevance(values: readonly Value[], question: WordQuestion, statistics: TextStatistics, weights: readonly number[]): number | undefined {
  const frequencies = new Array<number>(question.words.length).fill(0);
  let score = 0;
  let occurs = false;
  for (let p = 0; p < values.length; p++) {
    const { documents, length: all, having } = statistics.paths[p]!;
    const { length } = frequenciesIn(values[p], question, frequencies);
    const mean = all / documents;
    for (let w = 0; w < frequencies.length; w++) {
      const frequency = frequencies[w]!;
      if (frequency === 0) continue;
      occurs = true;
      score += wordScore(weights[p] ?? 1, inverseFrequency(documents, having[w]!), frequency, length, mean);
    }
  }
  return occurs ? score : undefined;
} // prettier-ignore

/** Counts over documents, one after another. */
export class StatisticsCounter {
  private readonly question: WordQuestion;
  private readonly paths: { documents: number; length: number; having: number[] }[];
  private readonly frequencies: number[];

  constructor(question: WordQuestion, paths: number) {
    this.question = question;
    this.frequencies = new Array<number>(question.words.length).fill(0);
    this.paths = Array.from({ length: paths }, () => ({
      documents: 0,
      length: 0,
      having: new Array<number>(question.words.length).fill(0),
    }));
  }

  /** Takes what a document has at each path. */
  add(values: readonly Value[]): void {
    values.forEach((value, p) => {
      const path = this.paths[p]!;
      const { length, isText } = frequenciesIn(value, this.question, this.frequencies);
      if (!isText) return;
      path.documents++;
      path.length += length;
      this.frequencies.forEach((frequency, w) => void (frequency > 0 && path.having[w]!++));
    });
  }

  get statistics(): TextStatistics {
    return { paths: this.paths };
  }
}
