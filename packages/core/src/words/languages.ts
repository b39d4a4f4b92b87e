import { ara, cat, ces, dan, deu, eng, fin, fra, hun, ita, nld, nob, por, ron, rus, spa, swe, tur } from 'stopword';
import { newStemmer } from 'snowball-stemmers';
import type { LanguageName } from './languageNames.ts';
import { fold } from './fold.ts';

/** Stop words are dropped, and words are brought to their stems (Snowball, Porter 2001). */
export interface Language {
  readonly isStopWord: (word: string) => boolean;
  /** The stem of a word in lower case. */
  readonly stem: (word: string) => string;
}

const stopWords: Readonly<Record<LanguageName, readonly string[]>> = {
  arabic: ara, catalan: cat, czech: ces, danish: dan, dutch: nld, english: eng, finnish: fin, french: fra, german: deu, hungarian: hun,
  italian: ita, norwegian: nob, portuguese: por, romanian: ron, russian: rus, spanish: spa, swedish: swe, turkish: tur,
}; // prettier-ignore

const made = new Map<LanguageName, Language>();

export function languageOf(name: LanguageName): Language {
  let found = made.get(name);
  if (found === undefined) {
    const words = new Set(stopWords[name].map((word) => word.toLowerCase()));
    const stemmer = newStemmer(name);
    found = { isStopWord: (word) => words.has(word), stem: (word) => stemmer.stem(word) };
    made.set(name, found);
  }
  return found;
}

/** How many words a language remembers the terms of. */
const remembered = 200_000;

/** What a word becomes; an empty text where it is left out. Remembers what it has met: texts use the same words again and again. */
export function termsOf(name: LanguageName | undefined): (word: string) => string {
  const language = name === undefined ? undefined : languageOf(name);
  const known = new Map<string, string>();
  return (word) => {
    let term = known.get(word);
    if (term === undefined) {
      const lower = word.toLowerCase();
      term = language?.isStopWord(lower.replaceAll('’', "'")) ? '' : fold(language === undefined ? lower : language.stem(lower));
      if (known.size >= remembered) known.clear();
      known.set(word, term);
    }
    return term;
  };
}
