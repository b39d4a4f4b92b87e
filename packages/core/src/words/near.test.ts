import fc from 'fast-check';
import { isNear } from './near.ts';

/** The whole table of Levenshtein 1966, by letters. */
function distance(a: readonly string[], b: readonly string[]): number {
  const table = Array.from({ length: a.length + 1 }, (_, i) => Array.from({ length: b.length + 1 }, (__, j) => (i === 0 ? j : j === 0 ? i : 0)));
  for (let i = 1; i <= a.length; i++)
    for (let j = 1; j <= b.length; j++)
      table[i]![j] = Math.min(table[i - 1]![j]! + 1, table[i]![j - 1]! + 1, table[i - 1]![j - 1]! + (a[i - 1] === b[j - 1] ? 0 : 1));
  return table[a.length]![b.length]!;
} // prettier-ignore

const letters = (least: number, most: number) =>
  fc.array(fc.constantFrom<string>('a', 'b', 'é', '😀', '山'), { minLength: least, maxLength: most });

test('a term is near that differs by one letter, or by two from eight letters on; whatever was asked before', () => {
  fc.assert(
    fc.property(letters(1, 11), fc.array(letters(0, 13), { minLength: 1, maxLength: 6 }), (word, terms) => {
      const near = isNear(word.join(''));
      const most = word.length >= 8 ? 2 : 1;
      for (const term of terms) expect(near(term.join(''))).toBe(distance(word, term) <= most);
    }),
    { numRuns: 3_000 },
  );
});

test('so is every term that is made of the word by so many slips', () => {
  const slips = fc.array(fc.tuple(fc.constantFrom('in', 'out', 'other'), fc.nat(20), fc.constantFrom('z', '山')), { maxLength: 2 });
  fc.assert(
    fc.property(letters(3, 12), slips, (word, made) => {
      const allowed = made.slice(0, word.length >= 8 ? 2 : 1);
      const term = [...word];
      for (const [how, at, letter] of allowed)
        term.splice(at % (term.length + 1), how === 'in' ? 0 : 1, ...(how === 'out' ? [] : [letter]));
      expect(isNear(word.join(''))(term.join(''))).toBe(true);
    }),
    { numRuns: 2_000 },
  );
});
