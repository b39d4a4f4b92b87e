import fc from 'fast-check';
import { readDefinition } from '../indexes/definition.ts';
import type { Json, JsonObject } from '../values/json.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';

const pause = () => Promise.resolve();

async function engineOf(documents: readonly JsonObject[], keys: readonly string[]): Promise<Engine> {
  const engine = new Engine({ pause, newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  await collection.buildIndex(readDefinition({ name: 'tried', keys: [...keys] }), pause);
  return engine;
}

const parameters = { low: 2, list: [1, 'b', null], text: 'ab' };

async function ask(engine: Engine, stages: string, more: object = {}) {
  const answer = await engine.query({ pipeline: `from c\n${stages}`, parameters, pageSize: 10_000, ...more });
  if (!answer.ok) throw new Error(`${stages}: ${answer.problem.message}`);
  return answer.value;
}

const scalar = fc.oneof(
  { weight: 5, arbitrary: fc.integer({ min: 0, max: 4 }) },
  { weight: 4, arbitrary: fc.constantFrom('a', 'ab', 'abc', 'b', 'Ab', '') },
  fc.constantFrom<Json>(null, true, false, [1], [], { x: 1 }, 2.5),
);
const element = fc.record({ fee: scalar, bunks: scalar }, { requiredKeys: [] });
const document = fc.record(
  {
    a: scalar,
    b: scalar,
    n: fc.record({ x: scalar }, { requiredKeys: [] }),
    tags: fc.oneof({ weight: 4, arbitrary: fc.array(scalar, { maxLength: 4 }) }, { weight: 1, arbitrary: scalar }),
    nights: fc.oneof({ weight: 4, arbitrary: fc.array(element, { maxLength: 3 }) }, { weight: 1, arbitrary: element }),
  },
  { requiredKeys: [] },
);
const documents = fc.array(document, { minLength: 20, maxLength: 60 }).map((list) => list.map((one, id) => ({ id, ...one }) as JsonObject));

/** What of a condition the index stands for: all of it, a part that is tested again, or nothing. */
type Served = 'whole' | 'in part' | 'not';

/** The table "Which forms an index on a key can serve" of the notation, row by row. */
test.each<[string, string[], Served]>([
  // The same path or expression, compared with constants or parameters.
  ['@.a == 1', ['@.a'], 'whole'],
  ['1 == @.a', ['@.a'], 'whole'],
  ['$.a == 1', ['@.a'], 'whole'],
  ['@.a == :low', ['@.a'], 'whole'],
  ['@.a == "ab"', ['@.a'], 'whole'],
  ['@.a == true', ['@.a'], 'whole'],
  ['@.a == [1]', ['@.a'], 'whole'],
  ['@.a == {x: 1}', ['@.a'], 'whole'],
  ['@.a == 1 + 1', ['@.a'], 'whole'],
  ['@.a in [1, "b"]', ['@.a'], 'whole'],
  ['@.a in []', ['@.a'], 'whole'],
  ['@.a in :list', ['@.a'], 'whole'],
  ['@.a == 1 || @.a == "b" || @.a == null', ['@.a'], 'whole'],
  ['@.a < 3', ['@.a'], 'whole'],
  ['@.a <= 3', ['@.a'], 'whole'],
  ['@.a > :low', ['@.a'], 'whole'],
  ['3 > @.a', ['@.a'], 'whole'],
  ['@.a >= "ab"', ['@.a'], 'whole'],
  ['@.a > 1 && @.a < 4', ['@.a'], 'whole'],
  ['@.a > 3 && @.a < 2', ['@.a'], 'whole'],
  ['@.a <= null', ['@.a'], 'whole'],
  ['@.a < true', ['@.a'], 'whole'],
  ['starts_with(@.a, "ab")', ['@.a'], 'whole'],
  ['starts_with(@.a, :text)', ['@.a'], 'whole'],
  ['starts_with(@.a, "")', ['@.a'], 'whole'],
  ['match(@.a, "ab.*")', ['@.a'], 'in part'],
  ['match(@.a, "ab")', ['@.a'], 'in part'],
  ['@.n.x == 2', ['@.n.x'], 'whole'],
  ["@['n']['x'] == 2", ['@.n.x'], 'whole'],
  ['@.nights[0].fee == 2', ['@.nights[0].fee'], 'whole'],
  // Computed keys.
  ['fold(@.a) == "ab"', ['fold(@.a)'], 'whole'],
  ['lower(@.a) in ["ab", "b"]', ['lower(@.a)'], 'whole'],
  ['starts_with(fold(@.a), "a")', ['fold(@.a)'], 'whole'],
  ['length(@.a) >= 2', ['length(@.a)'], 'whole'],
  ['@.a + @.b > 4', ['@.a + @.b'], 'whole'],
  ['fold(@.a) == "ab"', ['@.a'], 'not'],
  ['@.a == "ab"', ['fold(@.a)'], 'not'],
  // Everything to its left is fixed by equality.
  ['@.a == 1 && @.b > 1', ['@.a', '@.b'], 'whole'],
  ['@.b > 1 && @.a == 1', ['@.a desc', '@.b desc'], 'whole'],
  ['@.a in [1, 2] && @.b == 1', ['@.a', '@.b'], 'whole'],
  ['@.a > 1 && @.b == 1', ['@.a', '@.b'], 'in part'],
  ['@.b == 1', ['@.a', '@.b'], 'not'],
  ['@.a == 1 && !@.b', ['@.a', '@.b'], 'whole'],
  // Array elements.
  ['@.tags[?@ == 1]', ['@.tags[*]'], 'in part'],
  ['@.tags[?1 == @]', ['@.tags[*]'], 'in part'],
  ['@.tags[?@ > 2]', ['@.tags[*]'], 'in part'],
  ['includes(@.tags, "ab")', ['@.tags[*]'], 'in part'],
  ['includes_all(@.tags, [1, 2])', ['@.tags[*]'], 'in part'],
  ['includes_all(@.tags, [])', ['@.tags[*]'], 'not'],
  ['1 in @.tags', ['@.tags[*]'], 'in part'],
  [':low in @.tags', ['@.tags[*]'], 'in part'],
  ['@.nights[?@.fee > 2]', ['@.nights[*].fee'], 'in part'],
  ['@.nights[?@.fee > 2 && @.bunks > 1]', ['@.nights[*].fee'], 'in part'],
  ['@.nights[?@.fee > 2 && @.fee < 4]', ['@.nights[*].fee'], 'in part'],
  ['exists(@.nights[?@.bunks == 1])', ['@.nights[*].bunks'], 'in part'],
  ['@.nights[?@.fee > $.a]', ['@.nights[*].fee'], 'not'],
  ['any(@.tags, @ == 1)', ['@.tags[*]'], 'not'],
  // Presence.
  ['@.a == null', ['@.a'], 'whole'],
  ['exists(@.a)', ['@.a'], 'whole'],
  ['@.a', ['@.a'], 'whole'],
  ['@.n.x', ['@.n.x'], 'whole'],
  // What none can serve.
  ['!@.a', ['@.a'], 'not'],
  ['@.a != 1', ['@.a'], 'not'],
  ['search(@.a, "b")', ['@.a'], 'not'],
  ['contains(@.a, "b")', ['@.a'], 'not'],
  ['ends_with(@.a, "b")', ['@.a'], 'not'],
  ['match(@.a, ".*b")', ['@.a'], 'not'],
  ['@.a == @.b', ['@.a'], 'not'],
  ['@.a == @.none', ['@.a'], 'not'],
  ['@.a == 1 || @.b == 1', ['@.a'], 'not'],
  ['!(@.a == 1)', ['@.a'], 'not'],
  ['@.*', ['@.a'], 'not'],
])('%s on %j is served: %s; and the rows are those of the scan', async (condition, keys, served) => {
  await fc.assert(
    fc.asyncProperty(documents, async (made) => {
      const engine = await engineOf(made, keys);
      const scanned = await ask(engine, `where ${condition}`, { ignoreIndexes: ['tried', 'identity'] });
      const found = await ask(engine, `where ${condition}`, { useIndex: 'tried' });
      expect(found.documents).toEqual(scanned.documents);
      const isUsed = found.plan.index === 'tried';
      const tested = (found.plan.conditions ?? []).length > 0;
      expect(isUsed ? (tested ? 'in part' : 'whole') : 'not').toBe(served);
      // What is insisted on is weighed like the others, and told with its reason.
      expect(found.weighed.find(({ index }) => index === 'tried')).toMatchObject({ chosen: isUsed });
    }),
    { numRuns: 12 },
  );
});

/** Enough that walking an index in its order is worth it, each with all fields. */
const many = Array.from({ length: 3_000 }, (_, id): JsonObject => ({
  id,
  a: id % 7,
  b: (id * 31) % 211,
  n: { x: (id * 17) % 97 },
  tags: [id % 5],
}));

/** `order by` the leading keys, either direction throughout; the same keys after equality on those before them. */
test.each<[string, string[], 'all of it' | 'a part' | 'none']>([
  ['order by @.a', ['@.a'], 'all of it'],
  ['order by @.a desc', ['@.a'], 'all of it'],
  ['order by @.a nulls first', ['@.a'], 'all of it'],
  ['order by @.a', ['@.a', '@.b'], 'all of it'],
  ['order by @.a, @.b', ['@.a', '@.b'], 'all of it'],
  ['order by @.a desc, @.b desc', ['@.a', '@.b'], 'all of it'],
  ['order by @.a desc, @.b', ['@.a desc', '@.b'], 'all of it'],
  ['order by @.a, @.b desc', ['@.a', '@.b'], 'a part'],
  ['order by @.a, @.n.x', ['@.a', '@.b'], 'a part'],
  ['order by @.b', ['@.a', '@.b'], 'none'],
  ['order by fold(@.a)', ['fold(@.a)'], 'all of it'],
  ['order by fold(@.a)', ['@.a'], 'none'],
  ['where @.a == 1\norder by @.b', ['@.a', '@.b'], 'all of it'],
  ['where @.a == 1\norder by @.a, @.b desc', ['@.a', '@.b'], 'all of it'],
  ['where @.a > 1\norder by @.a desc', ['@.a'], 'all of it'],
  ['where @.a > 1\norder by @.b', ['@.a', '@.b'], 'none'],
  ['where @.a in [1, 2, "b"]\norder by @.b', ['@.a', '@.b'], 'all of it'],
  ['order by @.tags[0]', ['@.tags[*]'], 'none'],
])('%s on %j: the index gives %s', async (stages, keys, given) => {
  const { plan } = await ask(await engineOf(many, keys), `${stages}\nlimit 3`, { useIndex: 'tried' });
  const steps: string[] = [];
  for (let step: PlanNode | undefined = plan; step !== undefined; step = step.inputs.at(0)) steps.push(step.step);
  const sorts = steps.includes('sort') || steps.includes('top-N sort');
  expect(sorts ? 'none' : steps.includes('partial sort') ? 'a part' : 'all of it').toBe(given);

  await fc.assert(
    fc.asyncProperty(documents, fc.constantFrom('', '\nlimit 3', '\noffset 2\nlimit 4'), async (made, page) => {
      const engine = await engineOf(made, keys);
      const scanned = await ask(engine, stages + page, { ignoreIndexes: ['tried', 'identity'] });
      expect((await ask(engine, stages + page, { useIndex: 'tried' })).documents).toEqual(scanned.documents);
    }),
    { numRuns: 20 },
  );
});
