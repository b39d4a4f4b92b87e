import { analyserOf, readWords } from '@zesty-sieve/core';
import type { Analysed, Body, analyseRequest } from '@zesty-sieve/contract';
import type { JsonText } from '../answers.ts';

/** Texts and words as a text index sees them. */
export function words() {
  return {
    analyse({ texts, words: asked = '', language }: Body<typeof analyseRequest>): JsonText {
      const { eachWord } = analyserOf(language);
      const answer: Analysed = {
        texts: texts.map((text) => {
          const found: Analysed['texts'][number] = [];
          eachWord(text, (word, from, term) => found.push({ word, from, term: term === '' ? null : term }));
          return found;
        }),
        words: readWords(asked, language).words.map(({ kind, text }) => ({ kind, text })),
      };
      return JSON.stringify(answer);
    },
  };
}
