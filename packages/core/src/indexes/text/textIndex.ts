import { compileValue, type Evaluate } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import type { DocumentChange } from '../../storage/residentStore.ts';
import type { DocumentStore } from '../../storage/store.ts';
import type { JsonObject } from '../../values/json.ts';
import { analyserOf } from '../../words/analyse.ts';
import type { WordQuestion } from '../../words/question.ts';
import { inverseFrequency, wordScore, type TextStatistics } from '../../words/relevance.ts';
import type { IndexDefinition } from '../definition.ts';
import type { BuildProgress, BuiltIndex } from '../kind.ts';
import { Scores } from '../scores.ts';
import { PathPostings } from './pathPostings.ts';
import type { Postings } from './postings.ts';

const context = makeContext({});
/** Documents that are looked at between two pauses of a build. */
const stretch = 200;

/** Which documents have which words: an inverted index, a part for each path (Zobel and Moffat 2006). */
export class TextIndex implements BuiltIndex {
  readonly definition: IndexDefinition;
  readonly paths: readonly PathPostings[];
  private readonly read: readonly Evaluate[];

  constructor(definition: IndexDefinition) {
    this.definition = definition;
    const analyser = analyserOf(definition.language);
    this.paths = definition.keys.map(() => new PathPostings(analyser));
    this.read = definition.keys.map(({ expression }) => compileValue(expression));
  }

  static *build(definition: IndexDefinition, { documents }: DocumentStore): Generator<BuildProgress, TextIndex> {
    const index = new TextIndex(definition);
    for (let from = 0; from < documents.length; from += stretch) {
      for (let at = from; at < Math.min(documents.length, from + stretch); at++) {
        const document = documents[at];
        if (document !== undefined) index.put(at, document);
      }
      yield { phase: 'reading', share: from / documents.length };
    }
    for (const path of index.paths) path.trim();
    return index;
  }

  get entries(): number {
    return this.paths.reduce((sum, { entries }) => sum + entries, 0);
  }
  get bytes(): number {
    return this.paths.reduce((sum, { bytes }) => sum + bytes, 0);
  }
  /** Words are never unique. */
  violation(): undefined {
    return undefined;
  }

  apply({ position, before, after }: DocumentChange): void {
    if (before !== undefined) for (const path of this.paths) path.remove(position);
    if (after !== undefined) this.put(position, after);
  }
  private put(position: number, document: JsonObject): void {
    this.paths.forEach((path, i) => path.add(position, this.read[i]!(document, context)));
  }

  /** What BM25 needs to know of some words. `chosen` are places of keys, in the order in which they are asked. */
  statistics({ words }: WordQuestion, chosen: readonly number[]): TextStatistics {
    return {
      paths: chosen.map((p) => {
        const path = this.paths[p]!;
        const { documents, length } = path;
        return { documents, length, having: words.map((word) => path.wordPostings(word)?.size ?? 0) };
      }),
    };
  }

  /**
   * The relevance of every document that has some of the words, by its position. Sums are taken over paths and words in their order, as
   * everywhere.
   */
  scores({ words }: WordQuestion, chosen: readonly number[], weights: readonly number[], size: number): Scores {
    const scores = new Scores(size);
    chosen.forEach((p, place) => {
      const path = this.paths[p]!;
      const { mean, documents } = path;
      for (const word of words) {
        const postings = path.wordPostings(word);
        if (postings === undefined) continue;
        scores.entries += postings.size;
        addWord(scores, path, postings, { weight: weights[place] ?? 1, rarity: inverseFrequency(documents, postings.size), mean });
      }
    });
    return scores;
  }
}

interface WordWeight {
  readonly weight: number;
  readonly rarity: number;
  readonly mean: number;
}

function addWord(scores: Scores, path: PathPostings, postings: Postings, { weight, rarity, mean }: WordWeight): void {
  for (let at = 0; at < postings.size; at++) {
    const position = postings.positionAt(at);
    scores.add(position, wordScore(weight, rarity, postings.frequencyAt(at), path.lengthAt(position), mean));
  }
}
