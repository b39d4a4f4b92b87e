import { kindsFor } from '../language/stages/registry.ts';
import type { StageKind } from '../language/stages/stage.ts';
import type { JsonObject } from '../values/json.ts';
import { readIndex } from '../indexes/kinds.ts';
import type { RuleName } from '../planner/logical.ts';
import { Engine } from './engine.ts';

/*
 * Each stage after each other: what a rule may move, drop or join by the traits of a stage shows in the rows of a pair. The pipelines are
 * asked as they are planned, and with every rule left out; an index gives the rules something to move for.
 */

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
/** Few different values, so that ties are many; and fields that some lack. */
const rows = Array.from({ length: 60 }, (_, id): JsonObject => ({
  id,
  a: (id * 7) % 5,
  b: (id * 11) % 3,
  ...(id % 4 > 0 && { t: `t${(id * 13) % 6}` }),
  list: Array.from({ length: (id * 5) % 4 }, (_e, n) => (n + id) % 3),
}));

/** A kind of stage that is new wants its lines here. */
const lines: Partial<Record<StageKind, readonly string[]>> = {
  where: ['where @.a == 3', 'where @.t < "t3" && @.b > 0', 'where includes(@.list, 2)'],
  select: ['select @.id, @.a, @.t, @.list', 'select @.id, @.b as a, @.a as b, @.t, @.list'],
  omit: ['omit @.t', 'omit @.a'],
  compute: ['compute x = @.a + @.b', 'compute a = @.b'],
  sample: ['sample 20 seed 3'],
  order: ['order by @.a', 'order by @.b desc, @.t'],
  offset: ['offset 7'],
  limit: ['limit 11'],
  unnest: ['unnest @.list as e', 'unnest @.list as a keep empty'],
  join: ['join d as d on d.id == @.a'],
  leftJoin: ['left join d as a on a.id == @.b'],
  gatherJoin: ['gather join d as d on d.id == @.a'],
  group: ['group by @.a measure n = count(), t = max(@.t)', 'group by @.b, @.t measure a = first(@.a)'],
  groupAll: ['group all measure a = sum(@.b), t = last(@.t)'],
  rank: ['rank as r order by @.a', 'rank as a partition by @.b order by @.t desc'],
  denseRank: ['dense rank as r order by @.a'],
  rowNumber: ['row number as a partition by @.b order by @.t'],
  best: ['best 9 by @.a', 'best 9 by @.b as a', 'best 9 by @.a, @.b weight 2 as s'],
}; // prettier-ignore

const rules: Readonly<Record<RuleName, true>> = {
  'where moved up': true,
  'order moved up': true,
  'limit moved up': true,
  'order dropped': true,
  'unused fields dropped': true,
  'used fields alone': true,
  'unnest joined to group': true,
  'offset counted': true,
  'index-only': true,
};
const withoutRules = Object.keys(rules) as RuleName[];
const indexes = ['byA', 'byB', 'byT'];
const engine = new Engine(host);
beforeAll(async () => {
  const { store } = engine.define('c', '@.id');
  rows.forEach((row, position) => store.put(position, row));
  const d = engine.define('d', '@.id');
  [0, 1, 3, 4].forEach((id, position) => d.store.put(position, { id, m: id % 2 }));
  for (const [i, keys] of [['@.a'], ['@.b', '@.t'], ['@.t']].entries())
    await engine.collections.get('c')?.buildIndex(readIndex({ name: indexes[i]!, keys }), host.pause);
});

/** Keeps the rows that a pipeline has now as a view's, to be used unasked. */
async function keepRows(pipeline: string): Promise<void> {
  const made = await engine.query({ pipeline, pageSize: 1_000 });
  const kept = engine.define('kept', '@["#"]');
  kept.storedVersion = 1;
  if (made.ok) made.value.documents.forEach((row, position) => kept.store.put(position, row as JsonObject));
  const view = { name: 'kept', view: { pipeline }, isFresh: true, version: 1, refreshedAt: null, notes: [], approximate: null };
  engine.setKeptViews([view]);
}

test('every kind of stage that may stand in a pipeline has lines', () => {
  expect(kindsFor('pipeline').filter((kind) => kind !== 'from' && lines[kind] === undefined)).toEqual([]);
});

const all = Object.values(lines).flat();
test.each(all)('after “%s” each stage gives the rows that it gives without any rule', async (first) => {
  for (const second of all) {
    for (const third of ['', '\nlimit 4', '\nwhere @.b == 1', '\norder by @.t']) {
      const pipeline = `from c\n${first}\n${second}${third}`;
      const ask = (more: object) => engine.query({ pipeline, pageSize: 1_000, ...more });
      const [planned, plain] = [await ask({}), await ask({ withoutRules, ignoreIndexes: indexes })];
      const told = (answer: typeof planned): unknown => (answer.ok ? answer.value.documents : answer.problem.message);
      expect({ pipeline, rows: told(planned) }).toEqual({ pipeline, rows: told(plain) });
      // What stands here can be asked: two refusals would be alike, too.
      expect({ pipeline, refused: planned.ok ? '' : planned.problem.message }).toEqual({ pipeline, refused: '' });
    }
  }
}); // prettier-ignore

let answeredByKept = 0;
/** What may show in which order rows came, and from which places. */
const after = [
  'order by @.t',
  'best 4 by @.b',
  'row number as q order by @.a',
  'group by @.b measure x = first(@.id)',
  'order by @.a\norder by @.t',
  'limit 4',
];
test.each(all)('where the rows after “%s” are kept, and after it and each other stage, what goes on from them is what it is without them', async (first) => {
  for (const second of ['', ...all]) {
    const beginning = ['from c', first, second].filter((line) => line !== '').join('\n');
    await keepRows(beginning);
    for (const third of second === '' ? all.flatMap((one) => [one, `${one}\norder by @.t`]) : after) {
      const pipeline = `${beginning}\n${third}`;
      const ask = (more: object) => engine.query({ pipeline, pageSize: 1_000, ...more });
      const told = (answer: Awaited<ReturnType<typeof ask>>): unknown => (answer.ok ? answer.value.documents : answer.problem.message);
      const answer = await ask({});
      expect({ pipeline, rows: told(answer) }).toEqual({ pipeline, rows: told(await ask({ ignoreViews: ['kept'] })) });
      if (answer.ok && answer.value.sources.length > 0) answeredByKept++;
    }
  }
  engine.setKeptViews([]);
}); // prettier-ignore

test('many of them were answered from the rows that were kept', () => {
  expect(answeredByKept).toBeGreaterThan(1_000);
});
