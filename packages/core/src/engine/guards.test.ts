import { readDefinition } from '../indexes/definition.ts';
import type { JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { QueryRequest } from './requests.ts';

const pause = () => Promise.resolve();
const host = { pause, newId: () => String(Math.random()), now: () => new Date('2026-02-03T04:05:06.789Z') };

const visits = Array.from({ length: 6_000 }, (_, i): JsonObject => ({
  id: i,
  hut: `h-${(i * 31) % 90}`,
  guest: `guest ${(i * 7919) % 6_000}`,
  size: (i * 13) % 17,
  day: `2026-0${1 + (i % 9)}-1${i % 10}`,
  nights: Array.from({ length: i % 4 }, (_, n) => ({ fee: 20 + ((i + n) % 7) })),
}));
const huts = Array.from({ length: 90 }, (_, i): JsonObject => ({ id: `h-${i}`, region: `r${i % 7}` }));

async function engineOf(): Promise<Engine> {
  const engine = new Engine(host);
  for (const [name, documents] of Object.entries({ visits, huts })) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
  }
  for (const keys of [['@.size', '@.day'], ['@.hut']]) await engine.collections.get('visits')?.buildIndex(readDefinition({ keys }), pause);
  return engine;
}

const open = { timeMs: 60_000, documentsRead: Number.MAX_SAFE_INTEGER, memoryBytes: Number.MAX_SAFE_INTEGER };

/** One of each kind of step that reads, holds or lets go. */
describe.each([
  ['a scan', 'where @.guest > "guest 5"'],
  ['a scan that a limit ends', 'where @.guest > "guest 5"\nlimit 7'],
  ['a sort', 'order by @.guest'],
  ['a sort of computed texts', 'compute k = concat(@.hut, @.guest)\norder by @.k desc'],
  ['a top-N sort', 'order by @.guest desc\nlimit 25'],
  ['an index range', 'where @.size in [3, 5, 8]'],
  ['an index in its order', 'where @.size == 4\norder by @.day desc'],
  ['a partial sort', 'where @.size == 4\norder by @.day, @.guest'],
  ['a union', 'where @.hut == "h-3" || @.size == 4 && @.day < "2026-03"'],
  ['groups', 'group by @.hut measure n = count(), guests = collect(@.guest)'],
  ['groups that an index has the answer to', 'group by @.hut measure n = count(), huts = count_distinct(@.hut)'],
  ['groups as many as documents, from an index', 'group by @.id measure n = count()'],
  ['groups of what is in arrays', 'unnest @.nights as night\ngroup by @.night.fee as fee measure n = count(), size = median(@.size)'],
  ['a hash join', 'left join huts as place on place.id == @.hut\nselect @.id, @.place.region'],
  ['a join that gathers', 'limit 500\ngather join huts as places on places.region == @.hut || places.id == @.hut'],
  ['a join through an index', 'where @.id < 40\njoin visits as other on other.hut == @.hut'],
  ['each with each', 'where @.id < 400\njoin huts as place on place.region != @.hut'],
  ['different values counted by an index', 'group all measure n = count_distinct(@.id)'],
  ['rows that are all kept', 'select @.id, concat(@.hut, @.guest) as who'],
  ['ranks', 'row number as place partition by @.hut order by @.guest'],
  ['ranks of which few are kept', 'rank as place partition by @.hut order by @.guest desc\nwhere @.place <= 2'],
  ['a sample', 'sample 50 seed 3'],
])('%s', (_, stages) => {
  const pipeline = `from visits\n${stages}`;
  const lines = pipeline.split('\n').length;
  let engine: Engine;
  beforeAll(async () => (engine = await engineOf()));
  const query = (more: Partial<QueryRequest> = {}, isCancelled?: () => boolean) => engine.query({ pipeline, pageSize: 10_000, guards: open, ...more }, isCancelled); // prettier-ignore

  test('runs within guards of just what it costs, and crosses any that is less', async () => {
    const free = await query();
    if (!free.ok) throw new Error(free.problem.message);
    const { cost, documents } = free.value;
    const just = await query({ guards: { ...open, documentsRead: cost.documentsRead, memoryBytes: cost.memoryBytes } });
    expect(just).toMatchObject({ ok: true, value: { cost: { documentsRead: cost.documentsRead, memoryBytes: cost.memoryBytes } } });
    if (just.ok) expect(just.value.documents).toEqual(documents);
    const less = await query({ guards: { ...open, documentsRead: cost.documentsRead - 1 } });
    if (cost.documentsRead > 0)
      expect(less).toMatchObject({ ok: false, problem: { kind: 'guard-documents-read', limit: cost.documentsRead - 1 } });
    if (cost.memoryBytes > 0) {
      const held = await query({ guards: { ...open, memoryBytes: cost.memoryBytes - 1 } });
      expect(held).toMatchObject({ ok: false, problem: { kind: 'guard-memory', limit: cost.memoryBytes - 1 } });
      if (!held.ok && 'line' in held.problem) expect(held.problem.line).toBeLessThanOrEqual(lines);
    }
    expect(await query({ guards: { ...open, timeMs: -1 } })).toMatchObject({ ok: false, problem: { kind: 'guard-time' } });
  });

  test('ends wherever it is cancelled, and leaves nothing behind that others would wait for', async () => {
    const free = await query();
    let looks = 0;
    await query({}, () => (looks++, false));
    for (const at of new Set([0, 1, looks >> 1, looks - 1].filter((one) => one < looks))) {
      let left = at;
      expect(await query({}, () => left-- <= 0)).toMatchObject({ ok: false, problem: { kind: 'cancelled' } });
    }
    // A write waits for all who read.
    await engine.collections.get('visits')?.apply([{ position: 0, document: visits[0] }]);
    const again = await query();
    if (!free.ok || !again.ok) throw new Error('it ran before');
    expect(again.value.documents).toEqual(free.value.documents);
  });
});

describe('a memory guard sees what a run really holds', () => {
  const ended = async (pipeline: string, memoryBytes: number) =>
    (await engineOf()).query({ pipeline, guards: { ...open, memoryBytes }, pageSize: 1 });
  test.each([
    ['the rows of a result, though each is small', 'from visits\njoin visits as other on other.id != @.id', 8_000_000],
    ['objects that are collected', 'from visits\ngroup all measure all = collect({hut: @.hut, guest: concat(@.guest, @.hut)})', 500_000],
    ['the keys of groups', 'from visits\ngroup by concat(@.guest, "/", @.hut) as who', 500_000],
    [
      'one huge row behind many small ones',
      'from visits\nlimit 40\ncompute t = if(@.id == 39, replace("xxxxxxxxxx", "x", glue(each([1, 2, 3], "aaaaaaaaaaaaaaaaaaaa"), replace("yyyyyyyy", "y", "zzzzzzzzzzzzzzzz"))), "")\nrank as r order by @.t',
      8_000,
    ],
  ])('%s', async (_, pipeline, limit) => {
    expect(await ended(pipeline, limit)).toMatchObject({ ok: false, problem: { kind: 'guard-memory', limit } });
  });

  test('and ends it before it has gone on for long', async () => {
    const answer = await ended('from visits\njoin visits as other on other.id != @.id', 8_000_000);
    // A batch of rows more, and no more than that.
    if (answer.ok || !('reached' in answer.problem)) throw new Error('it was to be ended');
    expect(answer.problem.reached).toBeLessThan(10_000_000);
  });
});
