import fc from 'fast-check';
import { Engine } from './engine.ts';
import { fieldTree } from '../shape/fieldTree.ts';
import { surveyFields } from '../shape/survey.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { rowsAfter } from '../language/forms/rowsAfter.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) };

async function run(documents: readonly JsonObject[], pipeline: string): Promise<readonly Json[]> {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  const answer = await engine.query({ pipeline, pageSize: 1_000 });
  if (!answer.ok) throw new Error(`${pipeline}: ${answer.problem.message}`);
  return answer.value.documents;
}

const value = fc.option(fc.integer({ min: 0, max: 4 }), { nil: undefined });
const documents = fc
  .array(fc.record({ a: value, b: fc.option(fc.constantFrom('x', 'y', 'z'), { nil: null }) }), { minLength: 1, maxLength: 25 })
  .map((list) =>
    list.map(({ a, b }, i): JsonObject => ({ id: `d${String((i * 7) % 100).padStart(2, '0')}`, ...(a !== undefined && { a }), b })),
  );
const key = (path: string) =>
  fc.tuple(fc.constantFrom('', ' desc'), fc.constantFrom('', ' nulls first')).map(([direction, nulls]) => path + direction + nulls);

test('the rows after a row are those that follow it in the whole result', async () => {
  await fc.assert(
    fc.asyncProperty(documents, key('@.a'), key('@.b'), fc.nat(24), async (docs, first, second, pick) => {
      const pipeline = `from c\norder by ${first}, ${second}, @.id\noffset 0`;
      const whole = await run(docs, pipeline);
      const at = pick % whole.length;
      const tree = fieldTree(surveyFields(docs));
      const made = rowsAfter(pipeline, whole[at], ['id'], () => tree);
      if ('reason' in made) {
        expect(at).toBe(whole.length - 1);
        return;
      }
      expect(await run(docs, made.text)).toEqual(whole.slice(at + 1));
    }),
    { numRuns: 150 },
  );
});

test.each<[string, string]>([
  ['from c\nlimit 3', 'This needs an order'],
  ['from c\norder by length(@.b)', 'is computed'],
  ['from c\norder by @.a\nselect @.id', 'Keep that field in select'],
  ['from c\norder by @.a\nwhere @.b', 'still drops rows'],
])('%s cannot go on from a row: %s', (pipeline, reason) => {
  expect(rowsAfter(pipeline, { id: 'd1' }, ['id'], () => undefined)).toEqual({ reason: expect.stringContaining(reason) as string });
});
