import { readDefinition } from '../indexes/definition.ts';
import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { PlanNode } from './describePlan.ts';
import type { QueryRequest } from './requests.ts';

const pause = () => Promise.resolve();
const host = { pause, newId: () => String(Math.random()), now: () => new Date('2026-02-03T04:05:06.789Z') };

async function engineOf(): Promise<Engine> {
  const engine = new Engine(host);
  const stays = engine.define('stays', '@.id');
  for (let i = 0; i < 900; i++) {
    const document: JsonObject = { id: i, hut: `h-${i % 30}`, size: i % 11, day: `2026-01-${10 + (i % 19)}` };
    stays.store.put(i, document);
  }
  const huts = engine.define('huts', '@.id');
  for (let i = 0; i < 30; i++) huts.store.put(i, { id: `h-${i}`, region: `r${i % 4}` });
  for (const keys of [['@.size', '@.day'], ['@.hut'], ['@.day desc']]) await stays.buildIndex(readDefinition({ keys }), pause);
  return engine;
}
const stepsOf = (node: PlanNode): string[] => [node.step, ...node.inputs.flatMap(stepsOf)];
const ask = async (stages: string, more: Partial<QueryRequest>) =>
  (await engineOf()).query({ pipeline: `from stays\n${stages}`, pageSize: 1_000, ...more });

test.each<[NonNullable<QueryRequest['ways']>, string, string, string]>([
  ['full scan', 'where @.id == 7', 'full scan', 'index lookup'],
  ['index', 'where @.size >= 0\norder by @.size\nlimit 5', 'index range scan', 'index range scan'],
  ['index order', 'where @.day > "2026"\norder by @.day', 'index range scan', 'index range scan'],
  ['union', 'where @.size > 1 || @.hut == "h-3"', 'index union', 'full scan'],
  ['intersection', 'where @.size == 4 && @.hut == "h-3"', 'index intersection', 'index lookup'],
  ['index only', 'group by @.size, @.day', 'index-only scan', 'full scan'],
  ['aggregate', 'group by @.hut measure n = count()', 'index-only scan', 'index-only scan'],
  [
    'early order',
    'join huts as place on place.id == @.hut && place.region == "r1"\norder by @.day desc\nlimit 300',
    'index range scan',
    'full scan',
  ],
  ['index join', 'join huts as place on place.id == @.hut', 'index nested-loop join', 'hash join'],
  ['hash join', 'where @.id == 5\njoin huts as place on place.id == @.hut', 'hash join', 'index nested-loop join'],
])('%s is taken where it is insisted on, and gives the same', async (ways, stages, step, usual) => {
  const plain = await ask(stages, {});
  const forced = await ask(stages, { ways });
  if (!plain.ok || !forced.ok) throw new Error(JSON.stringify([plain, forced]));
  expect(stepsOf(plain.value.plan)).toContain(usual);
  expect(stepsOf(forced.value.plan)).toContain(step);
  expect(forced.value.documents).toEqual(plain.value.documents);
});

test('a way that there is none of is refused with the reason', async () => {
  expect(await ask('where @.size == 4', { ways: 'union' })).toMatchObject({
    ok: false,
    problem: { kind: 'way', message: 'There is no way to these documents by union. Leave it open, or ask otherwise.' },
  });
  expect(await ask('where @.size == 4', { ways: 'intersection', useIndex: ['hut', 'size_day'] })).toMatchObject({
    ok: false,
    problem: {
      kind: 'way',
      message: 'There is no way to these documents by intersection with hut and size_day. Leave it open, or ask otherwise.',
    },
  });
});

test('of several indexes that are named all are used together, where they can be', async () => {
  const both = await ask('where @.size == 4 && @.hut == "h-3"', { useIndex: ['size_day', 'hut'] });
  expect(both.ok && both.value.plan).toMatchObject({ step: 'index intersection', indexes: ['hut', 'size_day'] });
  const one = await ask('where @.hut == "h-3"', { useIndex: ['size_day', 'hut'] });
  expect(one.ok && one.value.plan).toMatchObject({ step: 'index lookup', index: 'hut' });
});

test.each<Partial<QueryRequest>>([{ useIndex: 'size_dya' }, { useIndex: ['hut', 'size_dya'] }, { ignoreIndexes: ['size_dya'] }])(
  'an index that there is none of is told: %j',
  async (more) => {
    expect(await ask('where @.size == 4', more)).toMatchObject({
      ok: false,
      problem: {
        kind: 'not-found',
        message: 'There is no index size_dya on stays. Did you mean size_day? There are identity, size_day, hut, day_desc.',
      },
    });
  },
);
