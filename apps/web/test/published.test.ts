import * as fc from 'fast-check';
import type { PublishedField } from '@zesty-sieve/contract';
import { callersConditionProblem } from '@zesty-sieve/core/language';
import { headerWords } from '../src/features/publish/headerWords.ts';
import { conditionOf, itemsOf, listOf, retested, rowsOf, takesValue, testsOf, type ConditionRow } from '../src/published/conditionText.ts';

const fields: PublishedField[] = [
  { path: '@.region', type: 'text' },
  { path: '@.bunks', type: 'number' },
  { path: '@.open', type: 'boolean' },
  { path: '@.warden.name' },
  { path: '@.kind', choices: ['hut', 'lodge'] },
];
const row = fc.constantFrom(...fields).chain((field) =>
  fc.constantFrom(...testsOf(field)).chain((test): fc.Arbitrary<ConditionRow> => {
    const values: Record<string, fc.Arbitrary<string>> = {
      number: fc.integer({ min: -99, max: 99 }).map(String),
      boolean: fc.constantFrom('true', 'false'),
      text: fc.string({ minLength: 1, maxLength: 12 }).filter((text) => text.trim() === text && text !== ''),
      choice: fc.constantFrom('hut', 'lodge'),
    };
    const value = takesValue(test) ? values[field.choices ? 'choice' : (field.type ?? 'text')]! : fc.constant('');
    return value.map((given) => ({ path: field.path, test, value: given }));
  }),
);

test('rows of a condition make a text that may be asked, and come back from it', () => {
  fc.assert(
    fc.property(fc.array(row, { minLength: 1, maxLength: 5 }), fc.constantFrom('all' as const, 'any' as const), (rows, joined) => {
      const text = conditionOf(rows, joined, fields);
      expect(callersConditionProblem(text, fields.map(({ path }) => path))).toBeUndefined();
      const back = rowsOf(text, fields);
      expect(back && conditionOf(back.rows, back.joined, fields)).toBe(text);
    }),
  );
}); // prettier-ignore

test('any items are a list that one can read and type, and come back from it', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ minLength: 1 })), (items) => {
      expect(itemsOf(listOf(items))).toEqual(items);
      const asked = conditionOf([{ path: '@.region', test: 'one of', value: listOf(items) }], 'all', fields);
      expect(asked).toBe(items.length === 0 ? '' : `@.region in [${items.map((one) => JSON.stringify(one)).join(', ')}]`);
      expect(items.length === 0 || rowsOf(asked, fields)?.rows[0]?.value === listOf(items)).toBe(true);
    }),
  );
});

test.each<[string, string[]]>([
  ['', []],
  [' , ,', []],
  ['Fell,  High Tarn ', ['Fell', 'High Tarn']],
  ['"Fell, upper", Tarn', ['Fell, upper', 'Tarn']],
  ['5" pipe, 6" pipe', ['5" pipe', '6" pipe']],
  ['"Fell, upp', ['"Fell', 'upp']],
  ['"a" b, c', ['"a" b', 'c']],
  ['"\\x", c', ['"\\x"', 'c']],
])('%j is typed for %j', (typed, items) => expect(itemsOf(typed)).toEqual(items));

test('what was filled in goes along when the test is another one', () => {
  const kind: ConditionRow = { path: '@.kind', test: 'one of', value: 'hut, lodge' };
  expect(retested(kind, 'is')).toEqual({ ...kind, test: 'is', value: 'hut' });
  expect(retested({ ...kind, value: '' }, 'is not').value).toBe('');
  expect(retested({ ...kind, test: 'is', value: 'Fell, upper' }, 'one of').value).toBe('"Fell, upper"');
  expect(retested({ ...kind, test: 'is', value: '' }, 'one of').value).toBe('');
  expect(retested({ ...kind, test: 'is', value: 'a' }, 'is not').value).toBe('a');
});

test.each<[string, ConditionRow['test'], string, string]>([
  ['@.bunks', 'at least', '1e3', '@.bunks >= 1e3'],
  ['@.bunks', 'is', '007', '@.bunks == 7'],
  ['@.bunks', 'is', '.5', '@.bunks == 0.5'],
  ['@.bunks', 'is', '-0.25', '@.bunks == -0.25'],
  ['@.bunks', 'one of', '1, 2,, 3,', '@.bunks in [1, 2, 3]'],
  ['@.region', 'one of', 'Fell, ', '@.region in ["Fell"]'],
  ['@.region', 'is', '7', '@.region == "7"'],
  ['@.warden.name', 'is', '7', '@.warden.name == 7'],
  ['@.warden.name', 'is', '007', '@.warden.name == "007"'],
  ['@.warden.name', 'is', 'true', '@.warden.name == true'],
])('%s %s %s asks for %s', (path, test, value, text) => {
  expect(conditionOf([{ path, test, value }], 'all', fields)).toBe(text);
  expect(callersConditionProblem(text, [path])).toBeUndefined();
  expect(rowsOf(text, fields)?.rows).toHaveLength(1);
});

test('rows that are not filled in ask nothing, and what was written otherwise is left as it is', () => {
  expect(conditionOf([{ path: '@.region', test: 'is', value: ' ' }], 'all', fields)).toBe('');
  expect(rowsOf('@.region == "a" && (@.bunks > 3 || @.open)', fields)).toBeUndefined();
  expect(rowsOf('@.secret == 3', fields)).toBeUndefined();
});

test.each<[number, Record<string, string>, RegExp]>([
  [200, { 'cache-status': 'zesty-sieve; fwd=miss; stored', 'cache-control': 'no-cache' }, /worked out for this call, and is kept now.*asks each time/],
  [200, { 'cache-status': 'zesty-sieve; hit; ttl=-4; detail="it could not be made anew"', age: '14' }, /14 s old. Its time is over.*could not be made/],
  [200, { 'cache-status': 'zesty-sieve; hit; ttl=5', 'cache-control': 'private, max-age=5, stale-while-revalidate=60' }, /for 5 s more, and for 60 s after.*asked with a key/],
  [200, { 'zesty-sieve-approximate': 'effort=1200, recall=0.984, measured-at="2026-02-03T04:05:06Z"' }, /the best of 1,200 candidates, which found 98.4 % of the true best/],
  [304, {}, /Nothing has changed/],
])('the headers of a %i in words: %j', (status, headers, words) => expect(headerWords(status, new Headers(headers), 3).join(' ')).toMatch(words)); // prettier-ignore
