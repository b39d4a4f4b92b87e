import type { LanguageName } from './languageNames.ts';
import type { Value } from '../values/json.ts';
import { eachWord } from './cut.ts';
import { termsOf } from './languages.ts';

/** A term with the place of its word among all words of its text, stop words too, and where the word stands, in UTF-16 units. */
export type VisitTerm = (term: string, place: number, from: number, word: string) => void;

/** From a text to its terms: cut, lower case, stop words away, stems, folded. */
export interface Analyser {
  readonly language: LanguageName | undefined;
  /** Gives the number of words, stop words among them. */
  readonly eachTerm: (text: string, visit: VisitTerm) => number;
  readonly termOf: (word: string) => string;
  /** Every word with its term, which is empty for a stop word. */
  readonly eachWord: (text: string, visit: (word: string, from: number, term: string) => void) => void;
}

const made = new Map<LanguageName | undefined, Analyser>();

export function analyserOf(language: LanguageName | undefined): Analyser {
  let found = made.get(language);
  if (found === undefined) {
    const termOf = termsOf(language);
    found = {
      language,
      termOf,
      eachWord: (text, visit) => eachWord(text, (word, from) => visit(word, from, termOf(word))),
      eachTerm: (text, visit) => {
        let place = 0;
        eachWord(text, (word, from) => {
          const term = termOf(word);
          if (term !== '') visit(term, place, from, word);
          place++;
        });
        return place;
      },
    };
    made.set(language, found);
  }
  return found;
}

/** The texts that a path leads to: one, or those of an array. */
export function textsIn(value: Value): readonly string[] {
  if (typeof value === 'string') return [value];
  if (!Array.isArray(value)) return [];
  return value.filter((one): one is string => typeof one === 'string');
}
