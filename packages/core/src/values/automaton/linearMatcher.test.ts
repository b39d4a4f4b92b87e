import fc from 'fast-check';
import { readPattern } from '../iRegexp.ts';
import { leadOf } from './lead.ts';
import { LinearMatcher } from './linearMatcher.ts';
import { patternBranches } from './patternTree.ts';
import { TooManyStates } from './states.ts';

const matched = (pattern: string, extent: 'whole' | 'part', text: string): boolean => {
  const read = readPattern(pattern);
  if ('problem' in read) throw new Error(read.problem);
  return new LinearMatcher(read, extent).test(text);
};
/** What the built-in matcher says; it goes back, so texts are short. */
const native = (pattern: string, extent: 'whole' | 'part', text: string): boolean => {
  const read = readPattern(pattern);
  if ('problem' in read) throw new Error(read.problem);
  const part = (read.anchored.start ? '^' : '') + read.source + (read.anchored.end ? '$' : '');
  return new RegExp(extent === 'whole' ? `^(?:${read.source})$` : part, 'u').test(text);
};

const atom = fc.constantFrom('a', 'b', 'é', '😀', '.', '[ab]', '[^a]', '[a-cé]', '\\p{Lu}', '\\P{L}', '[\\p{Ll}😀]', '\\n', '\\-', '\\^', '/', '-', '\\{'); // prettier-ignore
const quantifier = fc.constantFrom('', '', '', '*', '+', '?', '{2}', '{1,3}', '{0,2}', '{2,}', '{0}');
const { pattern } = fc.letrec<{ pattern: string; branch: string; piece: string }>((tie) => ({
  pattern: fc.array(tie('branch'), { minLength: 1, maxLength: 3 }).map((branches) => branches.join('|')),
  branch: fc.array(tie('piece'), { maxLength: 4 }).map((pieces) => pieces.join('')),
  piece: fc.tuple(fc.oneof({ weight: 5, arbitrary: atom }, { weight: 1, arbitrary: tie('pattern').map((one) => `(${one})`) }), quantifier).map(([one, many]) => one + many), // prettier-ignore
}));
const text = fc.array(fc.constantFrom('a', 'b', 'c', 'A', 'é', '😀', '\n', '\ud83d', '1', '-', '^', '/', '{'), { maxLength: 9 }).map((all) => all.join('')); // prettier-ignore

test('what a pattern leads with is in every text that fits', () => {
  fc.assert(
    fc.property(pattern, fc.array(text, { minLength: 1, maxLength: 6 }), (one, texts) => {
      const read = readPattern(one);
      fc.pre(!('problem' in read));
      if ('problem' in read) return;
      const lead = leadOf(patternBranches(read.source));
      if (lead === undefined) return;
      for (const each of texts) if (native(one, 'part', each)) expect([one, lead, new RegExp(lead, 'u').test(each)]).toEqual([one, lead, true]); // prettier-ignore
      for (const each of texts) if (native(one, 'whole', each)) expect([one, lead, new RegExp(`^${lead}`, 'u').test(each)]).toEqual([one, lead, true]); // prettier-ignore
    }),
    { numRuns: 1_500 },
  );
});

test.each<[string, string | undefined]>([
  ['(slow|cold) after [a-m]+t', '(?:slow|cold) after [a-m]'],
  ['a?b*c', 'a{0,1}'],
  ['(a|b)+c', undefined],
  ['a|b+', undefined],
])('%s leads with %s', (one, lead) => {
  const read = readPattern(one);
  expect('source' in read && leadOf(patternBranches(read.source))).toBe(lead);
});

test.each(['whole', 'part'] as const)('finds what the built-in matcher finds: %s', (extent) => {
  fc.assert(
    fc.property(
      pattern,
      fc.tuple(fc.boolean(), fc.boolean()),
      fc.array(text, { minLength: 1, maxLength: 6 }),
      (one, [start, end], texts) => {
        const whole = `${start ? '^' : ''}${one}${end ? '$' : ''}`;
        const read = readPattern(whole);
        fc.pre(!('problem' in read));
        if ('problem' in read) return;
        const matcher = new LinearMatcher(read, extent);
        // The same matcher for all: what it has found of one text serves the next.
        for (const each of texts) expect([whole, each, matcher.test(each)]).toEqual([whole, each, native(whole, extent, each)]);
      },
    ),
    { numRuns: 1_500 },
  );
});

test.each(['(a+)+b', '(a|a)*b', '(a*)*b', '(a|b|ab)*c', 'a{0,30}a{0,30}b', '(.*)(.*)(.*)b'])('takes a long text at once: %s', (one) => {
  const long = 'a'.repeat(200_000);
  expect(matched(one, 'whole', long)).toBe(false);
  expect(matched(one, 'part', long)).toBe(false);
  expect(matched(one, 'part', `${long}${one.at(-1)}`)).toBe(true);
});

test('keeps its way when it has had to let go of what it knew', () => {
  const read = readPattern('.*x[ab]{14}y');
  if ('problem' in read) throw new Error(read.problem);
  const matcher = new LinearMatcher(read, 'part');
  let seed = 7;
  const noise = Array.from({ length: 60_000 }, () => 'abx'[(seed = (seed * 48_271) % 2_147_483_647) % 3]).join('');
  expect(matcher.test(noise)).toBe(false);
  expect(matcher.test(`${noise}x${'ab'.repeat(7)}y`)).toBe(true);
  const points = Array.from({ length: 30_000 }, (_, i) => String.fromCodePoint(0x4e00 + i)).join('');
  expect(matcher.test(points)).toBe(false);
  expect(matcher.test(`${points}x${'a'.repeat(14)}y`)).toBe(true);
});

test('says so where a pattern would take too much room', () => {
  expect(() => matched('(abcdefghijkl){900}', 'whole', 'a')).toThrow(TooManyStates);
});
