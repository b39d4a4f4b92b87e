import fc from 'fast-check';
import type { Json, JsonObject } from '../values/json.ts';
import { keepWholeSums, wholeSumsOf } from '../values/wholeSums.ts';
import { rowsToKeep } from '../execution/run.ts';
import { Engine } from './engine.ts';
import type { QueryRequest } from './requests.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };

/** A row as it is after a restart. */
function stored(row: Json): JsonObject {
  const read = JSON.parse(JSON.stringify(row)) as JsonObject;
  const sums = wholeSumsOf(row);
  if (sums !== undefined) keepWholeSums(read, JSON.parse(JSON.stringify(sums)) as typeof sums);
  return read;
}

/** An engine with stays, and with views whose rows have been worked out from them. */
async function engineWith(
  documents: readonly JsonObject[],
  views: Readonly<Record<string, string>>,
  isFresh = true,
  keepsSums = true,
): Promise<Engine> {
  const engine = new Engine(host);
  const { store } = engine.define('stays', '@.id');
  documents.forEach((one, i) => store.put(i, one));
  const huts = engine.define('huts', '@.id').store;
  ['a', 'b'].forEach((id, i) => huts.put(i, { id, region: i === 0 ? 'north' : 'south' }));
  const kept = [];
  for (const [name, pipeline] of Object.entries(views)) {
    const made = await engine.query({ pipeline, pageSize: 100_000 }, () => false, rowsToKeep);
    if (!made.ok) throw new Error(`${name}: ${made.problem.message}`);
    const collection = engine.define(name, '@["#"]');
    collection.storedVersion = 7;
    made.value.documents.forEach((row, i) => collection.store.put(i, stored(row)));
    collection.keepsSums = keepsSums && made.value.documents.every((row) => wholeSumsOf(row) !== undefined);
    kept.push({
      name,
      view: { pipeline },
      isFresh,
      version: 7,
      refreshedAt: '2026-02-03T00:00:00.000Z',
      notes: made.value.notes,
      approximate: made.value.approximate,
    });
  }
  engine.setKeptViews(kept);
  return engine;
}

async function ask(engine: Engine, pipeline: string, more: Partial<QueryRequest> = {}) {
  const answer = await engine.query({ pipeline, pageSize: 100_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}

const finest =
  'from stays\nwhere @.kind != "x"\ngroup by @.hut, @.month measure n = count(), fee = sum(@.fee), least = min(@.fee), most = max(@.fee), late = any(@.late == true), paid = every(@.paid == true), long = count() where @.nights > 2, mean = avg(@.fee)';
const views = {
  finest,
  paid: 'from stays\nwhere @.paid == true && @.kind == "k"\nselect @.id, @.hut, @.fee',
  ranked: 'from stays\ngroup by @.hut measure n = count()\norder by @.n desc\nlimit 2',
  regions: 'from stays\njoin huts as hut on hut.id == @.hut\ngroup by @.hut.region as region measure n = count()\norder by @.n desc',
  plain: 'from stays\nwhere @.nights > 1',
};
const questions: readonly (readonly [question: string, by: string | undefined])[] = [
  [finest, 'finest'],
  [`${finest}\nwhere @.n > 1\norder by @.fee desc, @.hut\nlimit 3`, 'finest'],
  ['from stays\nwhere @.kind != "x" && @.hut == "a"\ngroup by @.hut, @.month measure n = count(), fee = sum(@.fee)', 'finest'],
  ['from stays\nwhere @.hut\nwhere @.kind != "x"\ngroup by @.month, @.hut measure average = avg(@.fee), fee = sum(@.fee)', 'finest'],
  [
    'from stays\nwhere @.kind != "x"\ngroup by @.hut measure n = count(), least = min(@.fee), most = max(@.fee), late = any(@.late == true), paid = every(@.paid == true), long = count() where @.nights > 2',
    'finest',
  ],
  ['from stays\nwhere @.kind != "x" && @.month == 3\ngroup by @.hut as at measure stays = count()\norder by @.stays desc, @.at', 'finest'],
  // Sums are put together from what they were before they were rounded.
  ['from stays\nwhere @.kind != "x"\ngroup by @.hut measure total = sum(@.fee), n = count(), mean = avg(@.fee)', 'finest'],
  ['from stays\nwhere @.kind != "x" && @.hut != "a"\ngroup by @.month measure mean = avg(@.fee)\norder by @.mean desc, @.month', 'finest'],
  [
    'from stays\nwhere @.kind != "x"\ngroup all measure n = count(), fee = sum(@.fee), mean = avg(@.fee), least = min(@.fee), paid = every(@.paid == true), long = count() where @.nights > 2',
    'finest',
  ],
  [
    'from stays\nwhere @.kind != "x" && @.month > 3\ngroup all measure n = count(), fee = sum(@.fee), late = any(@.late == true), paid = every(@.paid == true)',
    'finest',
  ],
  ['from stays\nwhere @.kind != "x" && @.fee > 3\ngroup by @.hut, @.month measure n = count()', undefined],
  ['from stays\ngroup by @.hut, @.month measure n = count()', undefined],
  ['from stays\nwhere @.kind == "k" && @.paid == true\nselect @.id, @.hut, @.fee\norder by @.fee desc\nlimit 4', 'paid'],
  ['from stays\nwhere @.kind == "k" && @.paid == true && @.fee > 2\nselect @.id, @.hut, @.fee', undefined],
  ['from stays\ngroup by @.hut measure n = count()\norder by @.n desc\nlimit 2', 'ranked'],
  ['from stays\nwhere @.hut == "a"\ngroup by @.hut measure n = count()\norder by @.n desc\nlimit 2', undefined],
  ['from stays\njoin huts as hut on hut.id == @.hut\ngroup by @.hut.region as region measure n = count()\norder by @.n desc', 'regions'],
  ['from stays\nwhere @.nights > 1 && @.hut == "b"\norder by @.fee\nlimit 2', 'plain'],
  // One of two keys, asked for twice, is coarser.
  ['from stays\nwhere @.kind != "x"\ngroup by @.hut as a, @.hut as b measure n = count()', 'finest'],
  // How rare words are is known of all stays alone.
  ['from stays\nwhere @.nights > 1\ncompute s = relevance(@.kind, "k")\nselect @.id, @.s', undefined],
];

const stay = fc.record(
  {
    hut: fc.constantFrom<Json>('a', 'b', 'c', null),
    month: fc.constantFrom<Json>(1, 2, 3),
    fee: fc.oneof(fc.constantFrom<Json>(0.1, 0.2, 1e16, -1e16, 1.7e308, -1.7e308, 5e-324, 'free', null), fc.integer({ min: -5, max: 5 })),
    kind: fc.constantFrom('k', 'x'),
    late: fc.boolean(),
    paid: fc.boolean(),
    nights: fc.nat(4),
  },
  { requiredKeys: ['kind'] },
);

test('what a view answers has the rows, their order and their types that it has without', async () => {
  const used = new Map<string, Set<string>>();
  await fc.assert(
    fc.asyncProperty(fc.array(stay, { maxLength: 60 }), async (stays) => {
      const engine = await engineWith(stays.map((one, id) => ({ id, ...one })), views); // prettier-ignore
      for (const [question, by] of questions) {
        const [open, without] = [await ask(engine, question), await ask(engine, question, { ignoreViews: Object.keys(views) })];
        expect({ question, rows: open.documents }).toEqual({ question, rows: without.documents });
        expect(JSON.stringify(open.documents)).toBe(JSON.stringify(without.documents));
        expect(without.sources).toEqual([]);
        const read = open.sources.map(({ view }) => view);
        if (by === undefined) expect({ question, read }).toEqual({ question, read: [] });
        for (const view of read) used.set(question, (used.get(question) ?? new Set()).add(view));
      }
    }),
    { numRuns: 70 },
  );
  for (const [question, by] of questions) if (by !== undefined) expect([question, ...(used.get(question) ?? [])]).toContain(by);
}, 60_000);

const many = Array.from({ length: 2_000 }, (_, id) => ({ id, hut: `h${id % 7}`, month: id % 12, fee: id % 90, kind: id % 5 ? 'k' : 'x' }));

describe('a view that is used', () => {
  const question = 'from stays\nwhere @.kind != "x"\ngroup by @.hut, @.month measure n = count(), fee = sum(@.fee)\norder by @.fee desc';

  test('is told with what it spares, in the plan, the ways and the lines', async () => {
    const engine = await engineWith(many, { finest });
    const answer = await ask(engine, question);
    expect(answer.cost.documentsRead).toBe(84);
    expect(answer.sources).toEqual([{ view: 'finest', state: 'fresh', refreshedAt: '2026-02-03T00:00:00.000Z' }]);
    expect(answer.plan.inputs[0]?.inputs[0]).toMatchObject({ step: 'materialized view scan', collection: 'finest', documentsRead: 84 });
    expect(answer.weighed.filter(({ chosen }) => chosen)).toMatchObject([{ way: 'materialized view scan', collection: 'finest' }]);
    expect(answer.weighed.find(({ way }) => way === 'full scan')?.reason).toBe('would work it out anew from stays');
    expect(answer.lines.map(({ line, rowsOut }) => [line, rowsOut])).toEqual([[1, 84], [3, 84], [4, 84]]); // prettier-ignore
  });

  test('says what was to be said of its lines: of values that they could not use', async () => {
    const engine = await engineWith([...many, { id: -1, hut: 'h1', month: 1, fee: 'free', kind: 'k' }], { finest });
    const without = (await ask(engine, question, { ignoreViews: ['finest'] })).notes;
    expect(without).toMatchObject([{ code: 'unusable-values', count: 1, message: expect.stringContaining('"free"') as string }]);
    for (const asked of [question, 'from finest\nlimit 2']) {
      const { notes, sources } = await ask(engine, asked);
      expect(sources).toHaveLength(1);
      expect(notes.map(({ code, line, from, count }) => [code, line, from, count])).toEqual([['unusable-values', 1, 5, 1], ['unusable-values', 1, 5, 1]]); // prettier-ignore
      for (const { message } of notes)
        expect(message).toMatch(/^In the view finest, line 3: @.fee is text in 1 row, for example "free": (fee = sum|mean = avg)/);
    }
  });

  test('whose sums were kept rounded alone puts none together, and says so; its counts it does', async () => {
    const engine = await engineWith(many, { finest }, true, false);
    const coarse = (measure: string) => ask(engine, `from stays\nwhere @.kind != "x"\ngroup by @.hut measure ${measure}`);
    expect((await coarse('n = count()')).sources).toHaveLength(1);
    const summed = await coarse('fee = sum(@.fee)');
    expect(summed.sources).toEqual([]);
    expect(summed.weighed.find(({ collection }) => collection === 'finest')?.reason).toBe('its sum is kept rounded until it is made anew');
  });

  test('is passed over where it is stale, where that is asked for, and where rows are traced to their documents', async () => {
    const stale = await engineWith(many, { finest }, false);
    const answer = await ask(stale, question);
    expect(answer.cost.documentsRead).toBe(2_000);
    expect(answer.weighed.find(({ collection }) => collection === 'finest')).toMatchObject({
      chosen: false,
      reason: 'it is not up to date',
    });
    // By its name it is read all the same, and says of when it is.
    expect((await ask(stale, 'from finest\nlimit 1')).sources).toMatchObject([{ view: 'finest', state: 'stale' }]);
    const engine = await engineWith(many, { finest });
    expect((await ask(engine, question, { ignoreViews: ['finest'] })).sources).toEqual([]);
    expect((await ask(engine, question, { ways: 'full scan' })).sources).toEqual([]);
    expect((await ask(engine, question, { only: [1, 2] })).documents).toHaveLength(2);
    const unknown = await engine.query({ pipeline: question, ignoreViews: ['none'] });
    expect(unknown).toMatchObject({ ok: false, problem: { kind: 'not-found' } });
    const traced = await engine.trace({ pipeline: question }, '1', () => false);
    expect(traced).toMatchObject({ ok: true, value: { found: true } });
  });

  test('is not used once a document has changed and the view is told to be stale, though the plan was kept', async () => {
    const engine = await engineWith(many, { finest });
    expect((await ask(engine, question)).cost.documentsRead).toBe(84);
    const { pipeline } = { pipeline: finest };
    engine.setKeptViews([
      { name: 'finest', view: { pipeline }, isFresh: false, version: 7, refreshedAt: null, notes: [], approximate: null },
    ]);
    await engine.collections.get('stays')!.apply([{ position: 2_000, document: { id: 2_000, hut: 'new', month: 1, kind: 'k', fee: 1 } }]);
    expect((await ask(engine, question)).documents).toHaveLength(85);
    // Rows of an older version are in memory yet.
    engine.setKeptViews([
      { name: 'finest', view: { pipeline }, isFresh: true, version: 8, refreshedAt: null, notes: [], approximate: null },
    ]);
    expect((await ask(engine, question)).documents).toHaveLength(85);
  });

  test.each([
    ['now()', 'from stays\nwhere @.fee < date_part("year", now())', 'its rows are of the time at which they were made'],
    ['a sample', 'from stays\nsample 5', 'its rows are a sample'],
  ])('is none that goes by %s', async (_, pipeline, reason) => {
    const engine = await engineWith(many, { odd: pipeline });
    const answer = await ask(engine, `${pipeline}\nlimit 3`);
    expect(answer.sources).toEqual([]);
    expect(answer.weighed.find(({ collection }) => collection === 'odd')?.reason).toBe(reason);
  });
});
