import fc from 'fast-check';
import { readDefinition } from '../indexes/definition.ts';
import type { Json, JsonObject } from '../values/json.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';
import type { QueryRequest, QueryResult } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };

const stays = Array.from({ length: 6_000 }, (_, i): JsonObject => ({
  id: i,
  a: i % 10,
  when: (i * 7_919) % 6_000,
  hut: `h${i % 400}`,
  list: Array.from({ length: i % 3 }, (_e, n) => ({ f: n })),
}));
const huts = Array.from({ length: 400 }, (_, i): JsonObject => ({ id: `h${i}`, region: `r${i % 4}` }));

async function engineOf(...keys: string[][]): Promise<Engine> {
  const engine = new Engine(host);
  for (const [name, documents] of Object.entries({ stays, huts })) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
  }
  for (const one of keys) await engine.collections.get('stays')?.buildIndex(readDefinition({ keys: one }), host.pause);
  return engine;
}

async function ask(engine: Engine, stages: string, more: Partial<QueryRequest> = {}): Promise<QueryResult> {
  const answer = await engine.query({ pipeline: `from stays\n${stages}`, pageSize: 10_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

const join = 'join huts as place on place.id == @.hut';

test.each<[string, string[]]>([
  // Conditions go up past what does not make what they read.
  ['order by @.when\nwhere @.a == 3', ['where moved up: @.a == 3 is tested before line 2']],
  ['compute x = @.a + 1\nwhere @.a == 3 && @.x == 4', ['where moved up: @.a == 3 is tested before line 2']],
  ['select @.a as y, @.when\nwhere @.y == 3', ['where moved up: @.a == 3 is tested before line 2']],
  // What a filter asks of the row is asked of the row as it was there.
  ['select @.id, @.list\nwhere @.list[?@.f == $.a]', []],
  ['select @.a as y, @.list\nwhere any(@.list, @.f == $.y)', ['where moved up: any(@.list, @.f == $.a) is tested before line 2']],
  ['select @.a as y, @.list\nwhere @.list[?@.f == $.y]', ['where moved up: @.list[?@.f == $.a] is tested before line 2']],
  ['group by @.list measure n = count()\nwhere @.list[?@.f == $.n]', []],
  ['group all measure n = count()\nwhere 1 == 2', []],
  ['omit @.list\nwhere @.a == 3', ['where moved up: @.a == 3 is tested before line 2']],
  ['omit @.a\nwhere @.a == 3', []],
  [`${join}\nwhere @.a == 3`, ['where moved up: @.a == 3 is tested before line 2']],
  [`${join}\nwhere @.place.region == "r1"`, []],
  ['unnest @.list as e\nwhere @.e.f == 1 && @.a == 1', ['where moved up: @.a == 1 is tested before line 2']],
  ['unnest @.list as e with position as a\nwhere @.a == 1', []],
  ['group by @.a measure n = count()\nwhere @.a == 3 && @.n > 2', ['where moved up: @.a == 3 is tested before line 2']],
  ['group by @.a measure n = count()\nwhere @.n > 2', []],
  ['limit 5\nwhere @.a == 1', []],
  ['rank as r order by @.when\nwhere @.a == 1', []],
  ['sample 50\nwhere @.a == 1', []],
  // Orders go up past what gives each row in its turn.
  ['compute x = @.a + 1\norder by @.when', ['order moved up: rows are put in order before line 2']],
  ['compute x = @.a + 1\norder by @.x', []],
  ['compute when.x = 1\norder by @.when', []],
  [`left ${join}\norder by @.when`, ['order moved up: rows are put in order before line 2']],
  [`left ${join}\norder by @.place.region, @.when`, []],
  [`gather ${join}\ncompute n = 1\norder by @.when desc, @.a`, ['order moved up: rows are put in order before lines 2, 3']],
  [`${join}\norder by @.when`, []],
  ['unnest @.list as e keep empty\norder by @.when', ['order moved up: rows are put in order before line 2']],
  ['unnest @.list as e\norder by @.when', []],
  ['compute x = 1\nwhere @.x == 1\norder by @.when', []],
  [
    'select @.when as at, @.a\norder by @.at\nlimit 3',
    ['order moved up: rows are put in order before line 2', 'limit moved up: rows are counted off before line 2'],
  ],
  // Rows are counted off before more is made of them.
  [
    'order by @.when\ncompute x = 1\noffset 4\nlimit 5',
    ['limit moved up: rows are counted off before line 3', 'limit moved up: rows are counted off before line 3'],
  ],
  [`${join}\nlimit 5`, []],
  [`left ${join}\nlimit 5`, []],
  // Orders that a later line makes pointless.
  ['order by @.when\norder by @.a', ['order dropped: line 3 does not look at this order']],
  ['order by @.when\ngroup all measure n = count()', ['order dropped: line 3 does not look at this order']],
  ['order by @.when\ngroup all measure n = first(@.a)', []],
  ['order by @.when\nlimit 5\norder by @.a', []],
  // What nobody reads is not computed.
  ['compute x = @.a\ncompute y = @.when\nselect @.y', ['unused fields dropped: x is not computed: no later line reads it']],
  ['compute x = @.a\ncompute y = @.x\nselect @.y', []],
  ['compute x = @.a\nlimit 3', ['limit moved up: rows are counted off before line 2']],
])('%s is rewritten: %j, and gives the same rows', async (stages, told) => {
  const engine = await engineOf();
  const { rewrites, documents } = await ask(engine, stages);
  const moving = ['where moved up', 'order moved up', 'limit moved up', 'order dropped', 'unused fields dropped'] as const;
  expect(rewrites.filter(({ rule }) => moving.some((one) => one === rule)).map(({ rule, detail }) => `${rule}: ${detail}`)).toEqual(told);
  if (stages.startsWith('sample')) return;
  expect((await ask(engine, stages, { withoutRules: moving })).documents).toEqual(documents);
});

describe('what it spares', () => {
  test.each<[string, string, number]>([
    ['newest with their huts, by an index of the order', `left ${join}\norder by @.when desc\nlimit 20`, 40],
    ['a page of them', `left ${join}\ncompute x = 1\norder by @.when\noffset 10\nlimit 20`, 30 + 30],
    ['elements too, of those that come first', 'unnest @.list as e keep empty\norder by @.when\nlimit 20', 20],
    ['gathered partners of one page alone', `order by @.when\ngather ${join}\noffset 10\nlimit 20`, 30 + 20],
  ])('%s: %s', async (_, stages, reads) => {
    const engine = await engineOf(['@.when']);
    const result = await ask(engine, stages);
    const plain = await ask(engine, stages, { withoutRules: ['order moved up', 'limit moved up'] });
    expect(result.documents).toEqual(plain.documents);
    expect(result.cost.documentsRead).toBeLessThanOrEqual(reads);
    expect(plain.cost.documentsRead).toBeGreaterThan(reads);
  });

  test.each<[string, string, number]>([
    ['with the partners of those that come first', `${join}\norder by @.when desc\nlimit 20`, 60],
    ['a page of them', `${join}\ncompute x = 1\norder by @.when\noffset 10\nlimit 20`, 90],
    ['elements of those that come first', 'unnest @.list as e\norder by @.when\nlimit 20', 70],
    ['with a condition on the partner', `${join}\nwhere @.place.region == "r1"\norder by @.when desc\nlimit 10`, 240],
    ['after a condition that the index serves too', `where @.a == 3\n${join}\norder by @.when\nlimit 5`, 20],
    ['with names of its own', `select @.when as at, @.hut\n${join}\norder by @.at\nlimit 5`, 20],
  ])('where rows may drop out, as an index gives them: %s: %s', async (_, stages, reads) => {
    const engine = await engineOf(['@.when'], ['@.a', '@.when']);
    const result = await ask(engine, stages);
    const plain = await ask(engine, stages, { withoutRules: ['order moved up'] });
    expect(result.documents).toEqual(plain.documents);
    expect(result.rewrites.filter(({ rule, detail }) => rule === 'order moved up' && detail.includes('as an index gives it'))).toHaveLength(
      1,
    );
    expect(result.cost.documentsRead).toBeLessThanOrEqual(reads);
    expect(plain.cost.documentsRead).toBeGreaterThan(reads);
    // Without the index it is not done, and the index is advised.
    const without = await ask(await engineOf(), stages);
    expect(without.rewrites.map(({ detail }) => detail).join()).not.toContain('as an index gives it');
    expect(without.documents).toEqual(plain.documents);
    expect(without.suggestions).toHaveLength(1);
    expect(without.suggestions[0]).toMatchObject({ servesOrder: true });
  });

  test.each([
    ['all rows are wanted', `${join}\norder by @.when`],
    ['the partner makes the order', `${join}\norder by @.place.region\nlimit 5`],
    ['ranks are given on the way', `rank as r order by @.a\n${join}\norder by @.when\nlimit 5`],
    ['rows are grouped on the way', 'group by @.a measure when = max(@.when)\norder by @.when\nlimit 5'],
    ['rows are counted off on the way', `limit 500\n${join}\norder by @.when\nlimit 5`],
    ['the index is passed over', `${join}\norder by @.when\nlimit 5`],
  ])('not where %s: %s', async (why, stages) => {
    const engine = await engineOf(['@.when']);
    const result = await ask(engine, stages, why.includes('passed over') ? { ignoreIndexes: ['when'] } : {});
    expect(result.rewrites.map(({ detail }) => detail).join()).not.toContain('as an index gives it');
    expect(result.documents).toEqual((await ask(engine, stages, { withoutRules: ['order moved up'] })).documents);
  });

  test('an index is advised for an order that is written after a join', async () => {
    const { suggestions } = await ask(await engineOf(), `left ${join}\norder by @.when desc\nlimit 20`);
    expect(suggestions.map(({ keys, documentsRead }) => [keys, documentsRead])).toEqual([[['@.when desc'], 20]]);
  });
});

test('an order that is taken early gives the same pages, whatever stands between', async () => {
  const value = fc.oneof({ weight: 8, arbitrary: fc.integer({ min: 0, max: 40 }) }, fc.constantFrom<Json>(null, 'x', true));
  const visit = fc.record(
    {
      when: value,
      a: fc.integer({ min: 0, max: 3 }),
      hut: fc.nat(9).map((n) => `h${n}`),
      list: fc.array(fc.record({ f: fc.nat(3) }), { maxLength: 3 }),
    },
    { requiredKeys: ['a'] },
  );
  const between = fc.constantFrom(
    join, `left ${join}`, `gather ${join}`, 'unnest @.list as e', 'unnest @.list as e with position as at keep empty',
    'compute x = @.a + 1', 'where @.x == 2', 'where @.place.region == "r1"', 'omit @.list[0]', 'select @.id, @.when, @.a, @.hut, @.list',
  ); // prettier-ignore
  const order = fc
    .tuple(fc.constantFrom('', ' desc'), fc.constantFrom('', ' nulls first'), fc.constantFrom('', ', @.a', ', @.id desc'))
    .map(([direction, nulls, more]) => `order by @.when${direction}${nulls}${more}`);
  let early = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(visit, { minLength: 250, maxLength: 300, size: 'max' }),
      fc.constantFrom('', 'where @.a == 1\n'),
      fc.array(between, { minLength: 1, maxLength: 4 }),
      order,
      fc.constantFrom('limit 3', 'offset 2\nlimit 4'),
      async (made, first, stages, ordered, page) => {
        const engine = new Engine(host);
        for (const [name, documents] of Object.entries({
          stays: made.map((one, id) => ({ ...one, id }) as JsonObject),
          huts: huts.slice(0, 8),
        })) {
          const collection = engine.define(name, '@.id');
          documents.forEach((document, position) => collection.store.put(position, document));
        }
        for (const keys of [['@.when'], ['@.a', '@.when desc'], ['@.when', '@.a']])
          await engine.collections.get('stays')?.buildIndex(readDefinition({ keys }), host.pause);
        const asked = `${first}${stages.join('\n')}\n${ordered}\n${page}`;
        const result = await ask(engine, asked);
        if (result.rewrites.some(({ detail }) => detail.includes('as an index gives it'))) early++;
        const plain = await ask(engine, asked, { withoutRules: ['order moved up'], ignoreIndexes: ['when', 'a_when_desc', 'when_a'] });
        expect(result.documents).toEqual(plain.documents);
      },
    ),
    { numRuns: 150 },
  );
  expect(early).toBeGreaterThan(10);
});

test.each([
  `where @.a == 3\n${join}\nunnest @.list as e\ngroup by @.place.region as region measure n = count()\norder by @.n`,
  `left ${join}\ncompute x = @.a * 2\norder by @.when desc\nlimit 20`,
  'compute x = @.a\nwhere @.x == 1 && @.hut == "h3"\nrank as r order by @.when\nwhere @.r <= 3',
])('the times of the lines are those of the steps: %s', async (stages) => {
  const { plan, lines } = await ask(await engineOf(['@.hut']), stages);
  const all = ({ timeMs, inputs }: PlanNode): number => (timeMs ?? 0) + inputs.reduce((sum, input) => sum + all(input), 0);
  expect(lines.reduce((sum, { timeMs }) => sum + timeMs, 0)).toBeCloseTo(all(plan), 6);
  expect(lines.map(({ line }) => line)).toEqual(
    stages
      .split('\n')
      .map((_, i) => i + 1)
      .concat(stages.split('\n').length + 1),
  );
});
