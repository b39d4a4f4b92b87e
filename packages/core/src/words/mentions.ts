import type { Value } from '../values/json.ts';
import { analyserOf, textsIn } from './analyse.ts';
import type { WordQuestion } from './question.ts';

/** Whether texts mention some, or each, of the words that are asked for, wherever they stand. */
export function mentions(values: readonly Value[], { words, language }: WordQuestion, how: 'any' | 'all'): boolean {
  if (words.length === 0) return false;
  const { eachTerm } = analyserOf(language);
  const met = new Array<boolean>(words.length).fill(false);
  let left = words.length;
  for (const value of values)
    for (const text of textsIn(value)) {
      eachTerm(text, (term) => {
        for (let w = 0; w < words.length; w++) {
          if (met[w] === true || !words[w]!.meets(term)) continue;
          met[w] = true;
          left--;
        }
      });
      if (how === 'any' ? left < words.length : left === 0) return true;
    }
  return false;
}

/** Whether some text has the words one after another; a stop word of the phrase stands for any one word. */
export function mentionsPhrase(values: readonly Value[], { words, phrase, language }: WordQuestion): boolean {
  if (words.length === 0) return false;
  const { eachTerm } = analyserOf(language);
  for (const value of values)
    for (const text of textsIn(value)) {
      const terms: (string | undefined)[] = [];
      const count = eachTerm(text, (term, place) => void (terms[place] = term));
      for (let from = 0; from + phrase.length <= count; from++) if (stands(from, terms)) return true;
    }
  return false;

  function stands(from: number, terms: readonly (string | undefined)[]): boolean {
    return phrase.every((word, i) => {
      const term = terms[from + i];
      return word < 0 || (term !== undefined && words[word]!.meets(term));
    });
  }
}
