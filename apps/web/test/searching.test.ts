import fc from 'fast-check';
import type { IndexInfo, Shape } from '@zesty-sieve/contract';
import { parametersOf, usualSurface } from '@zesty-sieve/core/language';
import { pipelinesOf, placesShown, relevanceText } from '../src/features/search/pipelines.ts';
import { firstSettings, searchable, searchSettings, servingVectors, type SearchSettings } from '../src/features/search/settings.ts';

type Field = Shape['fields'][number];
const field = (path: string, more: Partial<Field>): Field =>
  ({ path, steps: path.split('.').slice(1).map((name) => ({ field: name })), documents: 10, types: {}, ...more }) as unknown as Field; // prettier-ignore
const fields = [
  field('@.id', { types: { text: 10 }, textLengths: { least: 6, mean: 6, greatest: 6 } as never }),
  field('@.at', { types: { text: 10 }, textLengths: { least: 20, mean: 24, greatest: 30 } as never, formats: [{ format: 'date-time', share: 1 }] as never }),
  field('@.text', { types: { text: 10 }, textLengths: { least: 40, mean: 300, greatest: 900 } as never, language: 'english' as never }),
  field('@.headline', { types: { text: 10 }, textLengths: { least: 20, mean: 40, greatest: 90 } as never }),
  field('@.notes[*]', { types: { text: 30 }, textLengths: { least: 20, mean: 400, greatest: 900 } as never }),
  field('@.vector', { types: { array: 10 }, arrayLengths: { least: 64, mean: 64, greatest: 64 } as never }),
  field('@.vector[*]', { types: { number: 640 } }),
  field('@.pair', { types: { array: 10 }, arrayLengths: { least: 2, mean: 2, greatest: 2 } as never }),
  field('@.pair[*]', { types: { number: 20 } }),
]; // prettier-ignore
const textIndex = { kind: 'text', name: 'words', keys: ['@.headline', '@.text'], language: 'german' } as unknown as IndexInfo;
const vectorIndex = (metric: string) => ({ kind: 'vector', name: metric, keys: ['@.vector'], metric }) as unknown as IndexInfo;

test('texts are searched in, the longest last; names, dates and elements are not; and vectors that are long enough', () => {
  expect(searchable({ fields })).toEqual({ texts: ['@.headline', '@.text'], vectors: ['@.vector'] });
  expect(searchable({ fields: [] })).toEqual({ texts: [], vectors: [] });
});

test('one begins with what an index of words is on, in its language, else with the texts that there are', () => {
  const settings = firstSettings({ fields }, [textIndex]);
  expect(settings).toMatchObject({ paths: [{ path: '@.headline', weight: 2 }, { path: '@.text', weight: 1 }], language: 'german', vector: '@.vector' }); // prettier-ignore
  expect(firstSettings({ fields }, [])).toMatchObject({ language: 'english' });
  expect(firstSettings({ fields: [] }, [])).toMatchObject({ paths: [], language: null, vector: null });
  for (const indexes of [[], [textIndex]]) expect(searchSettings.safeParse(firstSettings({ fields }, indexes)).success).toBe(true);
});

test('only an index by the angle serves a search by meaning', () => {
  expect(servingVectors([vectorIndex('euclidean'), textIndex], '@.vector')).toBeUndefined();
  expect(servingVectors([vectorIndex('euclidean'), vectorIndex('cosine')], '@.vector')).toMatchObject({ name: 'cosine' });
  expect(servingVectors([vectorIndex('cosine')], '@.other')).toBeUndefined();
});

const settings: fc.Arbitrary<SearchSettings> = fc.record({
  paths: fc.uniqueArray(fc.record({ path: fc.constantFrom('@.text', '@.headline', "@['odd name']"), weight: fc.constantFrom(0, 0.5, 1, 2) }), { maxLength: 3, selector: ({ path }) => path }),
  language: fc.constantFrom(null, 'english' as never),
  wordsWeight: fc.constantFrom(0, 0.5, 1, 3),
  vector: fc.constantFrom(null, '@.vector'),
  vectorWeight: fc.constantFrom(0, 0.5, 1, 3),
  effort: fc.constantFrom(null, 1, 200),
  where: fc.constantFrom('', '  ', '@.size > 3 && @.kind == "a"'),
  best: fc.integer({ min: 1, max: 100 }),
}); // prettier-ignore

test('whatever is set, what is asked can be read, and asks for nothing but the words', () => {
  fc.assert(
    fc.property(settings.filter(({ paths, vector }) => paths.length > 0 || vector !== null), (set) => {
      const { fused, byWords, byMeaning, title } = pipelinesOf('reports', '@.id', set, ['@.headline', '@.text']);
      const both = set.paths.length > 0 && set.vector !== null;
      // Rankings are drawn beside each other where there are two.
      expect([byWords !== undefined, byMeaning !== undefined]).toEqual([both, both]);
      expect(title).toBe(set.paths[0]?.path ?? '@.headline');
      for (const text of [fused, ...(byWords && byMeaning ? [byWords, byMeaning] : [])]) {
        const pipeline = usualSurface.parse(text);
        expect(pipeline.findings).toEqual([]);
        expect(parametersOf(pipeline)).toEqual(['words']);
        const best = pipeline.stages.find(({ stage }) => stage?.kind === 'best')?.stage as { count?: unknown } | undefined;
        expect(best).toBeDefined();
        expect(pipeline.stages.map(({ stage }) => stage?.kind)).toEqual(['from', ...(set.where.trim() === '' ? [] : ['where']), 'best', 'select']);
      }
      expect(fused).toContain(`best ${set.best} by`);
      if (byWords) expect(byWords).toContain(`best ${placesShown} by`);
    }),
    { numRuns: 400 },
  );
}); // prettier-ignore

test.each<[SearchSettings['paths'], SearchSettings['language'], string]>([
  [[{ path: '@.text', weight: 1 }], null, 'relevance(@.text, :words)'],
  [[{ path: '@.text', weight: 1 }], 'english' as never, 'relevance(@.text, :words, "english")'],
  [[{ path: '@.a', weight: 2 }, { path: '@.b', weight: 1 }], 'english' as never, 'relevance([@.a, @.b], :words, "english", [2, 1])'],
])('relevance of %j in %s is written %s', (paths, language, text) => expect(relevanceText(paths, language)).toBe(text)); // prettier-ignore
