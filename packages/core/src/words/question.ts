import type { LanguageName } from './languageNames.ts';
import { analyserOf } from './analyse.ts';
import { eachWord } from './cut.ts';
import { isNear } from './near.ts';
import { fold } from './fold.ts';

/** One of the words that are asked for, and the terms that it meets. */
export interface AskedWord {
  readonly kind: 'term' | 'beginning' | 'near';
  /** A term, or the folded beginning or word that terms are compared with. */
  readonly text: string;
  readonly meets: (term: string) => boolean;
}

/** What WORDS ask for. */
export interface WordQuestion {
  readonly language: LanguageName | undefined;
  /** Each once, in their order. */
  readonly words: readonly AskedWord[];
  /** The same as a phrase, by their places in `words`; -1 for a stop word, which stands for any one word. */
  readonly phrase: readonly number[];
}

const isMark = (character: string | undefined): character is '*' | '~' => character === '*' || character === '~';

/** Reads words as they are typed: `bridg*` is a beginning, `brige~` may differ a little. */
export function readWords(text: string, language: LanguageName | undefined): WordQuestion {
  const { termOf } = analyserOf(language);
  const words: AskedWord[] = [];
  const phrase: number[] = [];
  eachWord(text, (word, from) => {
    const mark = text[from + word.length];
    const asked = isMark(mark) ? marked(word, mark) : plain(termOf(word));
    if (asked === undefined) {
      phrase.push(-1);
      return;
    }
    let at = words.findIndex((one) => one.kind === asked.kind && one.text === asked.text);
    if (at < 0) at = words.push(asked) - 1;
    phrase.push(at);
  });
  return { language, words, phrase };
}

function plain(term: string): AskedWord | undefined {
  return term === '' ? undefined : { kind: 'term', text: term, meets: (one) => one === term };
}

function marked(word: string, mark: '*' | '~'): AskedWord | undefined {
  const text = fold(word.toLowerCase());
  if (text === '') return undefined;
  if (mark === '*') return { kind: 'beginning', text, meets: (term) => term.startsWith(text) };
  return { kind: 'near', text, meets: isNear(text) };
}
