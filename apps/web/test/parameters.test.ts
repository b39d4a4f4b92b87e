import fc from 'fast-check';
import type { Json } from '@zesty-sieve/core/language';
import { savedDraft } from '../src/state/bench/savedDraft.ts';
import { parametersFor, typedFor } from '../src/state/bench/parameters.ts';

test.each<[string, Json | undefined]>([
  ['7', 7],
  ['-0.5', -0.5],
  ['1e3', 1_000],
  ['1e999', '1e999'],
  ['007', '007'],
  ['"7"', '7'],
  ['true', true],
  ['null', null],
  ['[1, "a"]', [1, 'a']],
  ['["a', '["a'],
  ['Low Tarn', 'Low Tarn'],
  [' padded ', ' padded '],
  ['""', ''],
  ['', undefined],
  ['  ', undefined],
])('%j is typed for %j', (text, value) => expect(parametersFor({ of: text })).toEqual(value === undefined ? {} : { of: value }));

test('what stands in the inputs for any values gives them again: a text stays a text', () => {
  const text = fc.oneof(fc.string(), fc.constantFrom('7', 'true', 'null', '[1]', '"a"', '', ' ', '1e999', '007', '{}', ' 7'));
  const value = fc.oneof(text, fc.jsonValue()) as fc.Arbitrary<Json>;
  fc.assert(
    fc.property(fc.dictionary(fc.constantFrom('a', 'b', 'words'), value), (values) => {
      const sent = JSON.parse(JSON.stringify(values)) as Record<string, Json>;
      expect(parametersFor(typedFor(sent))).toEqual(sent);
    }),
    { numRuns: 2_000 },
  );
});

test('a saved pipeline is opened with the values that it was saved with', () => {
  const saved = { name: 'late', pipeline: 'from huts', sql: null, note: null, guards: null, chart: null };
  const draft = savedDraft({ ...saved, parameters: { hut: '12', least: 12, region: 'Fell', many: ['1'] } } as never);
  expect(draft.parameters).toEqual({ hut: '"12"', least: '12', region: 'Fell', many: '["1"]' });
  expect(savedDraft({ ...saved, parameters: null } as never).parameters).toEqual({});
});
