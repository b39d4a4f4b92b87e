import type { Value } from '../../values/json.ts';
import { textsIn, type Analyser } from '../../words/analyse.ts';
import type { AskedWord } from '../../words/question.ts';
import { Postings } from './postings.ts';
import { border, encodedWords, firstTerm, stopWord, WordSequences } from './wordSequences.ts';

/** A word of a phrase: the number of its term, or of any that it may be; undefined for any one word. */
export type PhraseWord = number | ReadonlySet<number> | undefined;

/** What the words of one path are, document by document: terms, where they occur, and how long texts are. */
export class PathPostings {
  /** Documents that have a text there, and the words of all of them. */
  documents = 0;
  length = 0;
  /** Pairs of a term and a document that has it. */
  entries = 0;
  private readonly terms = new Map<string, Postings>();
  /** The same by their numbers, which begin at `firstTerm`. */
  private readonly numbered: (Postings | undefined)[] = [];
  /** Numbers of terms that no document has any more. */
  private readonly free: number[] = [];
  private readonly sequences = new WordSequences();
  private readonly analyser: Analyser;
  /** One more than the number of words of each document's texts; 0 where it has none. */
  private lengths = new Uint32Array(1_024);
  /** How often each term has come in the document at hand, and the terms that have. */
  private frequencies = new Uint32Array(1_024);
  private readonly met: Postings[] = [];

  constructor(analyser: Analyser) {
    this.analyser = analyser;
  }

  /** Bytes. */
  get bytes(): number {
    let bytes = this.lengths.byteLength + this.frequencies.byteLength + this.sequences.bytes + 8 * this.numbered.length;
    // A term's text, its entry in the map, and its lists as objects.
    for (const [term, postings] of this.terms) bytes += 2 * term.length + 190 + postings.bytes;
    return bytes;
  }

  add(position: number, value: Value): void {
    const texts = textsIn(value);
    if (texts.length === 0) return;
    const words: number[] = [];
    let length = 0;
    texts.forEach((text, i) => {
      if (i > 0) words.push(border);
      const begins = words.length;
      const count = this.analyser.eachTerm(text, (term, place) => {
        while (words.length < begins + place) words.push(stopWord);
        const postings = this.terms.get(term) ?? this.newTerm(term);
        words.push(postings.number);
        this.meet(postings);
        length++;
      });
      while (words.length < begins + count) words.push(stopWord);
    });
    this.sequences.put(position, words);
    for (const postings of this.met) {
      postings.add(position, this.frequencies[postings.number]!);
      this.frequencies[postings.number] = 0;
    }
    this.entries += this.met.length;
    this.met.length = 0;
    this.documents++;
    this.length += length;
    if (position >= this.lengths.length) {
      const longer = new Uint32Array(Math.max(position + 1, this.lengths.length * 2));
      longer.set(this.lengths);
      this.lengths = longer;
    }
    this.lengths[position] = length + 1;
  }

  /** What a document had there is known from its words. */
  remove(position: number): void {
    const length = (this.lengths[position] ?? 0) - 1;
    if (length < 0) return;
    this.sequences.read(position);
    const { words, count } = this.sequences;
    for (let i = 0; i < count; i++) if (words[i]! >= firstTerm) this.meet(this.numbered[words[i]!]!);
    for (const postings of this.met) {
      this.frequencies[postings.number] = 0;
      postings.remove(position);
      if (postings.size === 0) this.forget(postings);
    }
    this.entries -= this.met.length;
    this.met.length = 0;
    this.sequences.remove(position);
    this.documents--;
    this.length -= length;
    this.lengths[position] = 0;
  }

  private meet(postings: Postings): void {
    if (this.frequencies[postings.number]!++ === 0) this.met.push(postings);
  }

  private newTerm(term: string): Postings {
    const number = this.free.pop() ?? Math.max(firstTerm, this.numbered.length);
    const postings = new Postings(term, number);
    this.terms.set(term, postings);
    this.numbered[number] = postings;
    if (number >= this.frequencies.length) {
      const longer = new Uint32Array(this.frequencies.length * 2);
      longer.set(this.frequencies);
      this.frequencies = longer;
    }
    return postings;
  }

  private forget({ term, number }: Postings): void {
    this.terms.delete(term);
    this.numbered[number] = undefined;
    this.free.push(number);
  }

  trim(): void {
    for (const postings of this.terms.values()) postings.trim();
    this.sequences.trim();
  }

  /** Tells of documents whether some text has words one after another. */
  phraseFinder(phrase: readonly PhraseWord[]): (position: number) => boolean {
    const plain = phrase.filter((word) => typeof word === 'number');
    if (plain.length < phrase.length) return (position) => this.hasPhrase(position, phrase);
    const encoded = encodedWords(plain);
    return (position) => this.sequences.has(position, encoded);
  }

  private hasPhrase(position: number, phrase: readonly PhraseWord[]): boolean {
    this.sequences.read(position);
    const { words, count } = this.sequences;
    next: for (let from = 0; from + phrase.length <= count; from++) {
      for (let i = 0; i < phrase.length; i++) {
        const word = words[from + i]!;
        const meant = phrase[i];
        if (typeof meant === 'number') {
          if (word !== meant) continue next;
        } else if (meant === undefined ? word === border : !meant.has(word)) continue next;
      }
      return true;
    }
    return false;
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
