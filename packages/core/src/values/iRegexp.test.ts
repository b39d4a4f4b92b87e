import { patternProblem, readPattern } from './iRegexp.ts';

const fits = (pattern: string, text: string): boolean => {
  const read = readPattern(pattern);
  if ('problem' in read) throw new Error(read.problem);
  return new RegExp(`^(?:${read.source})$`, 'u').test(text);
};

test.each<[string, string[], string[]]>([
  ['abc', ['abc'], ['ab', 'abcd', 'ABC']],
  ['a.c', ['abc', 'a😀c', 'a.c'], ['ac', 'a\nc', 'a\rc']],
  ['[a-c]+', ['a', 'cab'], ['', 'd']],
  ['[^a-c]', ['d', '😀', '\n'], ['a', 'dd']],
  ['[-a]', ['-', 'a'], ['b']],
  ['[a-]', ['-', 'a'], ['b']],
  ['a|b|', ['a', 'b', ''], ['ab']],
  ['(ab){2}', ['abab'], ['ab', 'ababab']],
  ['a{2,}', ['aa', 'aaaa'], ['a']],
  ['a{1,3}', ['a', 'aaa'], ['', 'aaaa']],
  ['\\p{Lu}\\p{Ll}*', ['Élan', 'A'], ['élan', '1']],
  ['\\P{N}+', ['abc'], ['a1']],
  ['[\\p{L}_]+', ['año_'], ['a1']],
  ['\\(\\.\\)', ['(.)'], ['(x)']],
  ['a\\-b', ['a-b'], ['ab']],
  ['\\n\\t', ['\n\t'], ['nt']],
  ['/', ['/'], ['']],
  // Anchors at the ends, which the whole text has anyway; characters as any other elsewhere.
  ['^a$', ['a'], ['^a$']],
  ['a^b', ['a^b'], ['ab']],
  ['$a', ['$a'], ['a']],
  ['(^a)', ['^a'], ['a']],
  ['a\\\\$', ['a\\'], ['a\\$']],
  ['^', [''], ['^']],
])('%s', (pattern, fitting, others) => {
  for (const text of fitting) expect([text, fits(pattern, text)]).toEqual([text, true]);
  for (const text of others) expect([text, fits(pattern, text)]).toEqual([text, false]);
});

test.each([
  '(',
  ')',
  '[',
  '[]',
  'a{',
  'a{2',
  'a{3,2}',
  '*a',
  'a**',
  '\\d',
  '\\w',
  '\\b',
  '(?:a)',
  '(?=a)',
  '[a-\\p{L}]',
  '\\p{Xx}',
  '[z-a]',
  'a\\',
  '\\1',
  '((a{100}){10}){2}',
])('%s is no pattern of RFC 9485, and what is wrong with it is told', (pattern) =>
  expect(patternProblem(pattern)).toEqual(expect.stringMatching(/\S/)),
);

test.each<[string, string, boolean]>([
  ['abc', 'abc', false],
  ['abc.*', 'abc', true],
  ['ab(c|d)', 'ab', false],
  ['abc?', 'ab', false],
  ['a\\.b.*', 'a.b', true],
  // Brackets are not looked into: less is known, and nothing wrong.
  ['(abc)x.*', '', false],
  ['abc|abd', '', false],
  ['[a]b', '', false],
  ['.*', '', true],
])('every text that fits %s begins with %j', (pattern, prefix, isPrefix) => {
  const read = readPattern(pattern);
  expect(read).toMatchObject({ prefix, isPrefix });
});

test.each<[string, boolean]>([
  ['a*b', true],
  ['(a|b)c', true],
  ['(a+)+', false],
  ['(a|a)*b', false],
  ['(a|a)'.repeat(35) + 'b', false],
  ['a?'.repeat(30) + 'a'.repeat(30), false],
  ['a{0,30}'.repeat(2) + 'b', false],
  ['(ab|cd|ef)x?y', true],
])('whether %s is matched in linear time by backtracking: %s', (pattern, safe) => {
  const read = readPattern(pattern);
  expect('safeWhole' in read && read.safeWhole).toBe(safe);
});
