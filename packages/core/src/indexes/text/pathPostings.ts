import type { Value } from '../../values/json.ts';
import { textsIn, type Analyser } from '../../words/analyse.ts';
import type { AskedWord } from '../../words/question.ts';
import { Postings } from './postings.ts';

/** What the words of one path are, document by document: terms, where they occur, and how long texts are. */
export class PathPostings {
  /** Documents that have a text there, and the words of all of them. */
  documents = 0;
  length = 0;
  /** Pairs of a term and a document that has it. */
  entries = 0;
  private readonly terms = new Map<string, Postings>();
  private readonly analyser: Analyser;
  /** One more than the number of words of each document's texts; 0 where it has none. */
  private lengths = new Uint32Array(1_024);

  constructor(analyser: Analyser) {
    this.analyser = analyser;
  }

  /** Bytes. */
  get bytes(): number {
    let bytes = this.lengths.byteLength;
    // A term's text, its entry in the map, and its lists as objects.
    for (const [term, postings] of this.terms) bytes += 2 * term.length + 180 + postings.bytes;
    return bytes;
  }

  private counted(value: Value): { readonly terms: Map<string, number>; readonly length: number } | undefined {
    const texts = textsIn(value);
    if (texts.length === 0) return undefined;
    const terms = new Map<string, number>();
    let length = 0;
    for (const text of texts)
      this.analyser.eachTerm(text, (term) => {
        length++;
        terms.set(term, (terms.get(term) ?? 0) + 1);
      });
    return { terms, length };
  }

  add(position: number, value: Value): void {
    const counted = this.counted(value);
    if (counted === undefined) return;
    for (const [term, frequency] of counted.terms) {
      let postings = this.terms.get(term);
      if (postings === undefined) this.terms.set(term, (postings = new Postings()));
      postings.add(position, frequency);
    }
    this.entries += counted.terms.size;
    this.documents++;
    this.length += counted.length;
    if (position >= this.lengths.length) {
      const longer = new Uint32Array(Math.max(position + 1, this.lengths.length * 2));
      longer.set(this.lengths);
      this.lengths = longer;
    }
    this.lengths[position] = counted.length + 1;
  }

  remove(position: number, value: Value): void {
    const counted = this.counted(value);
    if (counted === undefined) return;
    for (const term of counted.terms.keys()) {
      const postings = this.terms.get(term);
      postings?.remove(position);
      if (postings?.size === 0) this.terms.delete(term);
    }
    this.entries -= counted.terms.size;
    this.documents--;
    this.length -= counted.length;
    this.lengths[position] = 0;
  }

  trim(): void {
    for (const postings of this.terms.values()) postings.trim();
  }

  /** The number of words of a document's texts there. */
  lengthAt(position: number): number {
    return this.lengths[position]! - 1;
  }
  get mean(): number {
    return this.length / this.documents;
  }
  get termCount(): number {
    return this.terms.size;
  }
  postingsOf(term: string): Postings | undefined {
    return this.terms.get(term);
  }
  allTerms(): IterableIterator<[string, Postings]> {
    return this.terms.entries();
  }

  /** The lists of all terms that a word meets. */
  meeting({ kind, text, meets }: AskedWord): readonly Postings[] {
    if (kind === 'term') {
      const postings = this.terms.get(text);
      return postings === undefined ? [] : [postings];
    }
    const found: Postings[] = [];
    for (const [term, postings] of this.terms) if (meets(term)) found.push(postings);
    return found;
  }

  /** The same as one list: a document that has several of the terms has them as often together. */
  wordPostings(word: AskedWord): Postings | undefined {
    const [first, ...more] = this.meeting(word);
    if (more.length === 0) return first;
    const together = new Map<number, number>();
    for (const postings of [first!, ...more])
      for (let at = 0; at < postings.size; at++) {
        const position = postings.positionAt(at);
        together.set(position, (together.get(position) ?? 0) + postings.frequencyAt(at));
      }
    const merged = new Postings();
    for (const position of [...together.keys()].sort((a, b) => a - b)) merged.add(position, together.get(position)!);
    return merged;
  }
}
