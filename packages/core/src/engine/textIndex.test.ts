import fc from 'fast-check';
import { readIndex } from '../indexes/kinds.ts';
import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const vocabulary = [
  'bridge',
  'bridges',
  'Bridge',
  'the',
  'snow',
  'path',
  'paths',
  'ibex',
  'footbridge',
  'schön',
  'a',
  'lake',
  'lakes',
  'gone',
  '…',
];
const textOf = fc.array(fc.constantFrom(...vocabulary), { maxLength: 8 }).map((words) => words.join(' '));
const valueOf = fc.oneof({ weight: 6, arbitrary: textOf as fc.Arbitrary<Json | undefined> }, { weight: 2, arbitrary: fc.array(fc.oneof(textOf as fc.Arbitrary<Json>, fc.constant(null)), { maxLength: 3 }) }, { weight: 1, arbitrary: fc.constantFrom<Json | undefined>(null, undefined, 7, {}) }); // prettier-ignore
const documentOf = fc.record({ headline: valueOf, text: valueOf, n: fc.nat(3) });
const wordsOf = fc.array(fc.constantFrom(...vocabulary, 'bridg*', 'lak*', 'paht~', 'brige~', 'footbrigde~', '*'), { maxLength: 4 }).map((words) => words.join(' ')); // prettier-ignore
type Step = { readonly put: readonly [number, ReturnType<typeof documentFrom> | undefined] } | 'rebuild';
const documentFrom = (id: number, { headline, text, n }: { headline?: Json; text?: Json; n: number }) => ({ id, n, ...(headline !== undefined && { headline }), ...(text !== undefined && { text }) }); // prettier-ignore
const steps: fc.Arbitrary<Step[]> = fc.array(
  fc.oneof(
    { weight: 8, arbitrary: fc.tuple(fc.nat(14), fc.option(documentOf, { nil: undefined, freq: 5 })).map(([at, one]): Step => ({ put: [at, one && documentFrom(at, one)] })) },
    { weight: 1, arbitrary: fc.constant<Step>('rebuild') },
  ),
  { maxLength: 12 },
); // prettier-ignore

const languages = ['', ', "english"'];
const questions = (words: string, language: string): string[] => {
  const given = `${JSON.stringify(words)}${language}`;
  const both = '[@.headline, @.text]';
  return [
    ...['any', 'all', 'phrase'].flatMap((how) => [`where mentions_${how}(@.text, ${given})`, `where mentions_${how}(${both}, ${given}) && @.n > 0`]),
    `best 3 by relevance(@.text, ${given}) as s`,
    `best 5 by relevance(${both}, ${given}${language === '' ? '' : ', [2, 0.5]'}) as s`,
    `where @.n > 0\nwhere @.n < 3\nbest 2 by relevance([@.text, @.headline], ${given}) as s`,
    `best 4 by relevance(@.text, ${given}), @.n weight 2, relevance(@.headline, ${given}) as s`,
    `where mentions_any(@.text, ${given})\ncompute s = relevance(@.headline, ${given})\norder by @.n\nlimit 4`,
    `best 3 by -relevance(@.text, ${given}) as s\nselect @.id, @.s, @.n`,
    `where mentions_all(@.text, ${given}) || mentions_phrase(${both}, ${given})`,
    `where (mentions_any(@.text, ${given}) && @.n > 0) || (mentions_all(@.headline, ${given}) && mentions_any(@.text, "lynx"${language}))`,
    `where mentions_any(@.text, ${given}) || @.n == 2`,
  ]; // prettier-ignore
};

test('a text index gives what a scan gives, to the last digit, after changes of every kind', async () => {
  const used = new Set<string>();
  const sets = new Set<string>();
  await fc.assert(
    fc.asyncProperty(fc.array(documentOf, { minLength: 1, maxLength: 15 }), steps, wordsOf, fc.constantFrom(...languages), async (documents, changes, words, language) => {
      const engine = new Engine(host);
      const collection = engine.define('c', '@.id');
      documents.forEach((one, i) => collection.store.put(i, documentFrom(i, one)));
      const index = readIndex({ name: 'words', kind: 'text', keys: ['@.text', '@.headline'], ...(language !== '' && { language: 'english' as const }) });
      await collection.buildIndex(index, host.pause);
      await collection.buildIndex(readIndex({ name: 'byN', keys: ['@.n'] }), host.pause);
      for (const step of changes) {
        if (step === 'rebuild') await collection.buildIndex(index, host.pause);
        else await collection.apply([{ position: step.put[0], document: step.put[1] }]);
      }
      for (const stages of questions(words, language)) {
        const ask = (more: object) => engine.query({ pipeline: `from c\n${stages}`, ...more });
        const [scanned, open, insisted] = await Promise.all([ask({ ignoreIndexes: ['words', 'byN'] }), ask({}), ask({ useIndex: ['words'] })]);
        const rowsOf = (answer: typeof open): unknown => (answer.ok ? answer.value.documents : answer.problem.message);
        expect({ stages, rows: rowsOf(open) }).toEqual({ stages, rows: rowsOf(scanned) });
        expect({ stages, rows: rowsOf(insisted) }).toEqual({ stages, rows: rowsOf(scanned) });
        for (const ways of ['union', 'intersection'] as const) {
          const together = await ask({ ways, useIndex: ['words', 'byN'] });
          if (!together.ok && together.problem.kind === 'way') continue;
          expect({ stages, rows: rowsOf(together) }).toEqual({ stages, rows: rowsOf(scanned) });
          if (together.ok && ['words', 'byN'].every((name) => JSON.stringify(together.value.plan).includes(`${name},`) || JSON.stringify(together.value.plan).includes(`"${name}"`))) sets.add(ways);
        }
        if (insisted.ok && JSON.stringify(insisted.value.plan).includes('"index":"words"')) used.add(stages.replace(/".*?"/g, '…'));
      }
      const checks = await collection.checkIndexes(host.pause);
      expect(checks?.find(({ name }) => name === 'words')).toMatchObject({ missing: 0, misplaced: 0, absent: 0, entries: checks?.find(({ name }) => name === 'words')?.expected });
    }),
    { numRuns: 150 },
  );
  // Every question but the negated one, and one that other documents meet too, was served at some time.
  expect(used.size).toBeGreaterThanOrEqual(12);
  // Beside an index of another kind too: in the alternatives of one condition, and in two conditions.
  expect([...sets].sort()).toEqual(['intersection', 'union']);
}); // prettier-ignore
