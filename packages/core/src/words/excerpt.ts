import type { Value } from '../values/json.ts';
import { textsIn } from './analyse.ts';
import { eachWord } from './cut.ts';
import { analyserOf } from './analyse.ts';
import type { WordQuestion } from './question.ts';

/** About so many words. */
const passageWords = 30;

interface Placed {
  readonly from: number;
  readonly to: number;
  /** Which of the words that are asked for it is; -1 for none. */
  readonly asked: number;
}

/** The passage that has most of the words that are asked for, those between ⟦ ⟧; *nothing* where no text has one. */
export function excerpt(values: readonly Value[], question: WordQuestion): string | undefined {
  let best: { readonly text: string; readonly words: readonly Placed[]; readonly first: number; readonly worth: number } | undefined;
  for (const value of values)
    for (const text of textsIn(value)) {
      const words = placedIn(text, question);
      for (let first = 0; first < words.length; first++) {
        // A passage begins at a word that is asked for, or shows a little of what stands before it.
        if (words[first]!.asked < 0) continue;
        const worth = worthOf(words, first);
        if (best === undefined || worth > best.worth) best = { text, words, first, worth };
      }
    }
  return best && shown(best.text, best.words, best.first);
}

function placedIn(text: string, { words, language }: WordQuestion): readonly Placed[] {
  const { termOf } = analyserOf(language);
  const found: Placed[] = [];
  eachWord(text, (word, from) => {
    const term = termOf(word);
    found.push({ from, to: from + word.length, asked: term === '' ? -1 : words.findIndex((one) => one.meets(term)) });
  });
  return found;
}

/** Different words first, then how many there are. */
function worthOf(words: readonly Placed[], first: number): number {
  const different = new Set<number>();
  let all = 0;
  for (let i = first; i < Math.min(words.length, first + passageWords); i++) {
    const { asked } = words[i]!;
    if (asked < 0) continue;
    different.add(asked);
    all++;
  }
  return different.size * passageWords + all;
}

function shown(text: string, words: readonly Placed[], first: number): string {
  const inside = words.slice(first, first + passageWords);
  const lastAsked = inside.findLastIndex(({ asked }) => asked >= 0);
  // What room is left stands on both sides of what was found.
  const before = Math.min(first, (passageWords - 1 - lastAsked) >> 1);
  const from = first - before;
  const to = Math.min(words.length, from + passageWords);
  let made = from === 0 ? text.slice(0, words[0]!.from) : '… ';
  for (let i = from; i < to; i++) {
    const one = words[i]!;
    const word = text.slice(one.from, one.to);
    made += one.asked < 0 ? word : `⟦${word}⟧`;
    made += i + 1 < to ? text.slice(one.to, words[i + 1]!.from) : to === words.length ? text.slice(one.to) : ' …';
  }
  return made.trim();
}
