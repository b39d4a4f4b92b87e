import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };

type Data = Readonly<Record<string, readonly JsonObject[]>>;

function engineOf(data: Data, views: Record<string, string> = {}): Engine {
  const engine = new Engine(host);
  for (const [name, documents] of Object.entries(data)) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
  }
  engine.setViews(new Map(Object.entries(views).map(([name, pipeline]) => [name, { pipeline }])));
  return engine;
}

async function rows(data: Data, pipeline: string, views?: Record<string, string>): Promise<readonly Json[]> {
  const answer = await engineOf(data, views).query({ pipeline, pageSize: 1_000 });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.documents;
}

const b: JsonObject[] = [
  { id: 1, hut: 'x', n: [{ f: 4 }, { f: 6 }], s: 'late' },
  { id: 2, hut: 'y', n: [], s: 'late' },
  { id: 3, hut: null, n: null, s: 'lost' },
  { id: 4, n: 7, s: 'late' },
  { id: 5, hut: 'z', n: [{ f: 1 }], s: null },
  { id: 6, hut: 'x', s: 'lost' },
];
const h: JsonObject[] = [
  { id: 'x', name: 'Alder', tags: ['a', 'b'] },
  { id: 'y', name: 'Birch', tags: [] },
  { id: 'x2', ref: 'x', name: 'Cedar', tags: ['b'] },
  { id: null, name: 'nobody' },
];

describe('unnest', () => {
  test.each<[string, Json[]]>([
    [
      'unnest @.n as e\nselect @.id, @.e',
      [
        { id: 1, e: { f: 4 } },
        { id: 1, e: { f: 6 } },
        { id: 4, e: 7 },
        { id: 5, e: { f: 1 } },
      ],
    ],
    [
      'unnest @.n as e keep empty\nselect @.id, @.e.f as f',
      [{ id: 1, f: 4 }, { id: 1, f: 6 }, { id: 2 }, { id: 3 }, { id: 4 }, { id: 5, f: 1 }, { id: 6 }],
    ],
    ['unnest @.n as n with position as at\nwhere @.at == 1', [{ id: 1, hut: 'x', n: { f: 6 }, s: 'late', at: 1 }]],
    ['unnest @.n as e.deep\nlimit 1\nselect @.e', [{ e: { deep: { f: 4 } } }]],
    ['unnest @.nothing as e', []],
  ])('%s', async (stages, expected) => expect(await rows({ b }, `from b\n${stages}`)).toEqual(expected));
});

describe('joins', () => {
  test.each<[string, Json[]]>([
    [
      'join h as p on p.id == @.hut\nselect @.id, @.p.name as name',
      [
        { id: 1, name: 'Alder' },
        { id: 2, name: 'Birch' },
        { id: 6, name: 'Alder' },
      ],
    ],
    [
      'left join h as p on p.id == @.hut\nselect @.id, @.p.name as name',
      [{ id: 1, name: 'Alder' }, { id: 2, name: 'Birch' }, { id: 3 }, { id: 4 }, { id: 5 }, { id: 6, name: 'Alder' }],
    ],
    [
      'gather join h as p on p.ref == @.hut || p.id == @.hut\nselect @.id, each(@.p, @.name) as names',
      [
        { id: 1, names: ['Alder', 'Cedar'] },
        { id: 2, names: ['Birch'] },
        { id: 3, names: [] },
        { id: 4, names: [] },
        { id: 5, names: [] },
        { id: 6, names: ['Alder', 'Cedar'] },
      ],
    ],
    ['where @.id < 3\njoin h as p on p.id == @.hut && length(p.tags) > 0\nselect @.id', [{ id: 1 }]],
    [
      'where @.id < 3\njoin h as a.p on p.id == @.hut\nselect @.a.p.name',
      [{ a: { p: { name: 'Alder' } } }, { a: { p: { name: 'Birch' } } }],
    ],
    ['where @.id == 1\njoin h as p on "b" in p.tags\nselect @.p.name', [{ p: { name: 'Alder' } }, { p: { name: 'Cedar' } }]],
    ['where @.id == 1\ncompute l = ["b", "a", "b"]\njoin h as p on @.l[0] in p.tags\nselect @.p.id as h', [{ h: 'x' }, { h: 'x2' }]],
    ['where @.id == 1\ncompute l = ["y", "x", "x", null]\njoin h as p on p.id in @.l\nselect @.p.id as h', [{ h: 'x' }, { h: 'y' }]],
    ['where @.id == 1\njoin h as p on p.name > "B"\nselect @.p.name as n', [{ n: 'Birch' }, { n: 'Cedar' }, { n: 'nobody' }]],
    ['where @.id == 1\njoin h as p on p.name == "Birch"\nselect @.p.id as h', [{ h: 'y' }]],
    ['where @.id == 3\njoin h as p on p.id == @.hut', []],
    ['where @.id == 4\njoin h as p on p.nothing == @.hut', []],
    ['where @.id == 1\njoin b as o on o.hut == @.hut && o.id != @.id\nselect @.o.id as other', [{ other: 6 }]],
    ['where @.id == 1\njoin h as p on p.id == @.hut && p.tags[?@ == "b" && $.s == "late"]\nselect @.p.name as n', [{ n: 'Alder' }]],
  ])('%s', async (stages, expected) => expect(await rows({ b, h }, `from b\n${stages}`)).toEqual(expected));

  test('the plan tells the ways, and how many rows found none, one or several', async () => {
    const engine = engineOf({ b, h });
    const answer = await engine.query({
      pipeline: 'from b\nleft join h as p on p.ref == @.hut || p.id == @.hut\nleft join h as q on q.id == @.hut',
    });
    if (!answer.ok) throw new Error(answer.problem.message);
    expect(answer.value.plan).toMatchObject({
      step: 'hash join',
      lines: [3],
      matches: { none: 3, one: 5, several: 0 },
      inputs: [
        { step: 'nested-loop join', matches: { none: 3, one: 1, several: 2 } },
        { step: 'full scan', collection: 'h' },
      ],
    });
    expect(answer.value.lines.map(({ rowsOut }) => rowsOut)).toEqual([6, 8, 8]);
  });

  test('an index on the partners is used where few rows ask, and gives the same', async () => {
    const many = Array.from({ length: 3_000 }, (_, i) => ({ id: `m${i}`, key: i % 500, tags: [i % 7, i % 5] }));
    const few: JsonObject[] = [
      { id: 1, k: 7, t: [3] },
      { id: 2, k: 8 },
      { id: 3, k: 9_999 },
    ];
    const ask = async (build: boolean, pipeline: string) => {
      const engine = engineOf({ few, many });
      if (build) {
        await engine.collections.get('many')?.buildIndex(
          {
            name: 'key',
            kind: 'ordered',
            keys: (await import('../indexes/definition.ts')).readDefinition({ keys: ['@.key'] }).keys,
            unique: false,
            language: undefined,
            where: undefined,
          },
          host.pause,
        );
      }
      const answer = await engine.query({ pipeline, pageSize: 1_000 });
      if (!answer.ok) throw new Error(answer.problem.message);
      return answer.value;
    };
    const pipeline = 'from few\nleft join many as m on m.key == @.k && m.id != "m7"\nselect @.id, @.m.id as m';
    const [without, withIndex] = [await ask(false, pipeline), await ask(true, pipeline)];
    expect(withIndex.documents).toEqual(without.documents);
    expect(without.plan.inputs[0].step).toBe('hash join');
    expect(withIndex.plan.inputs[0]).toMatchObject({ step: 'index nested-loop join', index: 'key', documentsRead: 12 });
    expect(withIndex.weighed.filter(({ lines }) => lines.includes(2)).map(({ way, chosen }) => [way, chosen])).toEqual([
      ['index nested-loop join', true],
      ['hash join', false],
    ]);
  });
});

describe('groups', () => {
  test.each<[string, Json[]]>([
    [
      'group by @.s measure n = count()',
      [
        { s: 'late', n: 3 },
        { s: 'lost', n: 2 },
        { s: null, n: 1 },
      ],
    ],
    [
      'group by @.hut measure ids = collect(@.id)',
      [{ hut: 'x', ids: [1, 6] }, { hut: 'y', ids: [2] }, { hut: null, ids: [3] }, { ids: [4] }, { hut: 'z', ids: [5] }],
    ],
    [
      'group by @.s, @.hut as at measure n = count()\nlimit 2',
      [
        { s: 'late', at: 'x', n: 1 },
        { s: 'late', at: 'y', n: 1 },
      ],
    ],
    ['group by length(@.n) as l measure n = count()', [{ l: 2, n: 1 }, { l: 0, n: 1 }, { n: 3 }, { l: 1, n: 1 }]],
    ['group by @.s', [{ s: 'late' }, { s: 'lost' }, { s: null }]],
    [
      'group all measure n = count(), least = min(@.id), most = max(@.hut), mean = avg(@.id), mid = median(@.id), p = percentile(@.id, 25), dev = stddev(@.id)',
      [{ n: 6, least: 1, most: 'z', mean: 3.5, mid: 3.5, p: 2.25, dev: Math.sqrt(3.5) }],
    ],
  ] as [string, Json[]][])('%s', async (stages, expected) => expect(await rows({ b }, `from b\n${stages}`)).toEqual(expected));

  const v = [1, 4, '9', null, 2, 2, undefined].map((x, id) => ({ id, ...(x !== undefined && { x }) })) as JsonObject[];
  test.each<[string, Json]>([
    ['n = count()', { n: 7 }],
    ['n = count() where @.x == 2', { n: 2 }],
    ['n = count_distinct(@.x)', { n: 4 }],
    ['n = sum(@.x)', { n: 9 }],
    ['n = avg(@.x)', { n: 2.25 }],
    ['n = min(@.x), m = max(@.x)', { n: 1, m: '9' }],
    ['n = median(@.x)', { n: 2 }],
    ['n = percentile(@.x, 100), m = percentile(@.x, 50), o = percentile(@.x, 25)', { n: 4, m: 2, o: 1.75 }],
    ['n = stddev(@.x)', { n: Math.sqrt(((1 - 2.25) ** 2 + (4 - 2.25) ** 2 + 2 * (2 - 2.25) ** 2) / 3) }],
    ['n = collect(@.x)', { n: [1, 4, '9', 2, 2] }],
    ['n = collect_distinct(@.x)', { n: [1, 4, '9', 2] }],
    ['n = first(@.x), m = last(@.x)', { n: 1, m: 2 }],
    ['n = any(@.x == 4), m = every(@.x == 4), o = any(@.x), p = every(@.x)', { n: true, m: false, o: true, p: false }],
    ['n = sum(@.nothing), m = min(@.nothing), o = collect(@.nothing), p = count() where @.nothing', { o: [], p: 0 }],
    ['a.b = count(), a.c = sum(@.x)', { a: { b: 7, c: 9 } }],
  ])('group all measure %s', async (measure, expected) => {
    const [row] = await rows({ v }, `from v\ngroup all measure ${measure}`);
    expect(row).toEqual(expected);
  });

  test('on no rows everything is still one row; groups are none', async () => {
    expect(
      await rows(
        { v },
        'from v\nwhere @.id > 99\ngroup all measure n = count(), a = any(@.x), e = every(@.x), s = sum(@.x), c = collect(@.x)',
      ),
    ).toEqual([{ n: 0, a: false, e: true, c: [] }]);
    expect(await rows({ v }, 'from v\nwhere @.id > 99\ngroup by @.x measure n = count()')).toEqual([]);
  });
});

describe('ranks', () => {
  const r = [
    ['a', 5],
    ['a', 7],
    ['b', 1],
    ['a', 7],
    ['b', null],
    ['b', 1],
    ['a', 2],
    ['b', undefined],
  ].map(([g, x], id) => ({ id, g, ...(x !== undefined && { x }) })) as JsonObject[];
  const ranked = (stages: string) => rows({ r }, `from r\n${stages}\nselect @.id, @.p`);
  test.each<[string, number[]]>([
    ['rank as p partition by @.g order by @.x desc', [3, 1, 1, 1, 3, 1, 4, 3]],
    ['dense rank as p partition by @.g order by @.x desc', [2, 1, 1, 1, 2, 1, 3, 2]],
    ['row number as p partition by @.g order by @.x desc', [3, 1, 1, 2, 3, 2, 4, 4]],
    ['rank as p order by @.x', [4, 5, 1, 5, 7, 1, 3, 7]],
  ])('%s', async (stages, expected) => {
    expect(await ranked(stages)).toEqual(expected.map((p, id) => ({ id, p })));
  });
  test('a line that keeps the first of each makes it hold no more, and gives the same', async () => {
    const many = Array.from({ length: 4_000 }, (_, id) => ({ id, g: id % 3, x: (id * 7_919) % 101 }));
    for (const kind of ['rank', 'dense rank', 'row number']) {
      const cut = await engineOf({ many }).query({
        pipeline: `from many\n${kind} as p partition by @.g order by @.x desc\nwhere @.p <= 2`,
        pageSize: 1_000,
      });
      const whole = await engineOf({ many }).query({
        pipeline: `from many\n${kind} as p partition by @.g order by @.x desc\nwhere @.p < 3 || @.nothing`,
        pageSize: 1_000,
      });
      if (!cut.ok || !whole.ok) throw new Error('not answered');
      expect(cut.value.documents).toEqual(whole.value.documents);
      expect(cut.value.cost.memoryBytes).toBeLessThan(whole.value.cost.memoryBytes / 4);
    }
  });
});

test('a bounded run reads few documents, and their partners whole', async () => {
  const few = Array.from({ length: 50 }, (_, i) => ({ id: i, k: i }));
  const many = Array.from({ length: 900 }, (_, i) => ({ id: `m${i}`, k: 899 - i }));
  const answer = await engineOf({ few, many }).query({ pipeline: 'from few\njoin many as m on m.k == @.k', readAtMost: 10 });
  expect(answer.ok && [answer.value.rowsReturned, answer.value.bounded, answer.value.lines.map(({ rowsOut }) => rowsOut)]).toEqual([
    10,
    true,
    [10, 10],
  ]);
});

describe('views', () => {
  const views = {
    late: 'from b\nwhere @.s == "late"',
    later: 'from late\nwhere @.id > 1\ncompute twice = @.id * 2',
    round: 'from round',
    bad: 'from b\nwhere @.',
  };
  test('are planned through to their collections, as sources and as partners', async () => {
    expect(await rows({ b, h }, 'from later\nwhere @.hut == "y"\nselect @.id, @.twice', views)).toEqual([{ id: 2, twice: 4 }]);
    expect(
      await rows({ b, h }, 'from h\nwhere @.id != null\nleft join later as l on l.hut == @.id\nselect @.name, @.l.twice as t', views),
    ).toEqual([{ name: 'Alder' }, { name: 'Birch', t: 4 }, { name: 'Cedar' }]);
    const answer = engineOf({ b }, views).plan({ pipeline: 'from later\nwhere @.id == 4' });
    expect(answer.ok && answer.value.plan).toMatchObject({
      step: 'compute',
      inputs: [{ step: 'filter', inputs: [{ step: 'index lookup', collection: 'b' }] }],
    });
  });
  test.each([
    ['round', 'it reads itself'],
    ['bad', 'line 2 of it'],
  ])('a broken one is told of: %s', async (name, reason) => {
    const answer = await engineOf({ b }, views).query({ pipeline: `from ${name}` });
    expect(answer.ok ? '' : answer.problem.message).toContain(reason);
  });
});
