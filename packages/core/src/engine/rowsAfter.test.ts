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
      const rest = await run(docs, made.text);
      expect(rest).toEqual(whole.slice(at + 1));
      // And once more from there: what the page before asked for is left out where this one implies it.
      const further = rest.length < 2 ? made : rowsAfter(made.text, rest[0], ['id'], () => tree);
      if ('reason' in further || further === made) return;
      expect(await run(docs, further.text)).toEqual(whole.slice(at + 2));
      expect(further.text.split('\nwhere').length).toBeLessThanOrEqual(3);
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

test.each<[string, string]>([
  // The page before is replaced, with its comment kept; what someone wrote is not, unless it is just that.
  [
    'where @.a > 1 || @.a == 1 && @.id > "d1"  # on\norder by @.a, @.id',
    'where @.a > 7 || @.a == 7 && @.id > "d5"  # on\norder by @.a, @.id',
  ],
  ['where @.a < 9\norder by @.a, @.id', 'where @.a < 9\nwhere @.a > 7 || @.a == 7 && @.id > "d5"\norder by @.a, @.id'],
  [
    'where @.a > 1 || @.a == 2 && @.id > "d1"\norder by @.a, @.id',
    'where @.a > 1 || @.a == 2 && @.id > "d1"\nwhere @.a > 7 || @.a == 7 && @.id > "d5"\norder by @.a, @.id',
  ],
  ['where @.id > "d1"\norder by @.id', 'where @.id > "d5"\norder by @.id'],
])('%s goes on as %s', (stages, expected) => {
  const tree = fieldTree(surveyFields([{ id: 'd5', a: 7 }]));
  expect(rowsAfter(`from c\n${stages}`, { id: 'd5', a: 7 }, ['id'], () => tree)).toMatchObject({ text: `from c\n${expected}` });
});
