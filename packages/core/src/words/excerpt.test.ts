import fc from 'fast-check';
import { eachWord } from './cut.ts';
import { excerpt } from './excerpt.ts';
import { readWords } from './question.ts';

const passageWords = 30;
const wordsIn = (text: string): string[] => {
  const words: string[] = [];
  eachWord(text, (word) => words.push(word));
  return words;
};
const plain = (shown: string): string => shown.replace(/^… /, '').replace(/ …$/, '').replaceAll(/[⟦⟧]/g, '');
const marked = (shown: string): string[] => [...shown.matchAll(/⟦(.+?)⟧/g)].map(([, word]) => word!.toLowerCase());

const word = fc.constantFrom('bridge', 'river', 'Ford', 'the', 'snow', 'deep', 'ibex');
const text = fc
  .array(fc.tuple(word, fc.constantFrom(' ', ', ', '. ', '\n', ' – ')), { maxLength: 90 })
  .map((parts) => parts.flat().join(''));
const asked = fc.uniqueArray(fc.constantFrom<string>('bridge', 'ford', 'snow'), { minLength: 1, maxLength: 3 });

test('a passage stands in the text as it is shown, is no longer than it may be, and has the words marked that are asked for, and no others', () => {
  fc.assert(
    fc.property(text, asked, (of, words) => {
      const shown = excerpt([of], readWords(words.join(' '), undefined));
      const lower = wordsIn(of).map((one) => one.toLowerCase());
      if (!lower.some((one) => words.includes(one))) {
        expect(shown).toBeUndefined();
        return;
      }
      expect(of).toContain(plain(shown!));
      const inside = wordsIn(plain(shown!)).map((one) => one.toLowerCase());
      expect(inside.length).toBeLessThanOrEqual(passageWords);
      expect(marked(shown!)).toEqual(inside.filter((one) => words.includes(one)));
      // What is cut off says so, and what is not does not.
      expect(shown!.includes('…')).toBe(lower.length > passageWords);
    }),
    { numRuns: 500 },
  );
});

test('it has as many different words as any passage of that length', () => {
  fc.assert(
    fc.property(fc.array(text, { minLength: 1, maxLength: 3 }), asked, (texts, words) => {
      const different = (some: readonly string[]) => new Set(some.filter((one) => words.includes(one))).size;
      const most = texts.map((of) => {
        const all = wordsIn(of).map((one) => one.toLowerCase());
        return Math.max(0, ...all.map((_, first) => different(all.slice(first, first + passageWords))));
      });
      const shown = excerpt([texts], readWords(words.join(' '), undefined));
      expect(shown === undefined ? 0 : different(marked(shown))).toBe(Math.max(...most));
    }),
    { numRuns: 500 },
  );
});

test.each<[string, string, string | undefined]>([
  ['The bridge is gone.', 'bridge', 'The ⟦bridge⟧ is gone.'],
  ['The bridges are gone.', 'bridge', undefined],
  ['Bridge after bridge', 'bridg*', '⟦Bridge⟧ after ⟦bridge⟧'],
  ['A brigde, misspelt', 'brigdes~', 'A ⟦brigde⟧, misspelt'],
  ['Only the of', '*', undefined],
  ['', 'bridge', undefined],
])('of %j, asked for %s, %j is shown', (of, words, shown) => expect(excerpt([of], readWords(words, undefined))).toBe(shown));

test('stems are met in a language, and the word is marked as it stands', () => {
  expect(excerpt(['Many bridges are gone'], readWords('bridge', 'english'))).toBe('Many ⟦bridges⟧ are gone');
  expect(excerpt([7, null, ['no', 'a bridge']], readWords('bridge', 'english'))).toBe('a ⟦bridge⟧');
});
