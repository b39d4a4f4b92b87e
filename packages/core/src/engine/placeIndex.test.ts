import fc from 'fast-check';
import { readIndex } from '../indexes/kinds.ts';
import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const degrees = (most: number): fc.Arbitrary<number> =>
  fc.oneof(fc.integer({ min: -most, max: most }), fc.double({ min: -most, max: most, noNaN: true }));
// Around the date line, at the poles, one upon the other, and beyond the usual longitudes.
const point = fc.oneof(
  fc.tuple(degrees(180), degrees(90)),
  fc.constantFrom(
    [180, 0],
    [-180, 0],
    [179.999, 12],
    [-179.999, 12],
    [0, 90],
    [77, 90],
    [0, -90],
    [10, 46],
    [10, 46],
    [370, 46],
    [-200, 5],
  ),
) as fc.Arbitrary<number[]>;
const place: fc.Arbitrary<Json | undefined> = fc.oneof(
  { weight: 5, arbitrary: point.map((coordinates) => ({ type: 'Point', coordinates })) },
  { weight: 3, arbitrary: point },
  {
    weight: 1,
    arbitrary: fc.constantFrom<Json | undefined>(undefined, null, 'here', [1], [3, 200], { type: 'LineString', coordinates: [1, 2] }),
  },
);
const documentOf = fc.record({ at: place, n: fc.nat(3) });
const made = (id: number, { at, n }: { at?: Json; n: number }) => ({ id, n, ...(at !== undefined && { at }) });

test('a place index gives what a scan of haversines gives, across the date line and at the poles, after changes', async () => {
  const used = new Set<string>();
  await fc.assert(
    fc.asyncProperty(
      fc.array(documentOf, { maxLength: 200 }),
      fc.array(fc.tuple(fc.nat(220), fc.option(documentOf, { nil: undefined })), { maxLength: 12 }),
      point,
      fc.oneof(fc.constantFrom(0, 1, 1e5, 2e7, 3e7), fc.double({ min: 0, max: 2.1e7, noNaN: true })),
      async (documents, changes, from, metres) => {
        const engine = new Engine(host);
        const collection = engine.define('c', '@.id');
        documents.forEach((one, i) => collection.store.put(i, made(i, one)));
        await collection.buildIndex(readIndex({ name: 'places', kind: 'place', keys: ['@.at'] }), host.pause);
        for (const [position, one] of changes) await collection.apply([{ position, document: one && made(position, one) }]);
        const parameters = { from, metres };
        for (const stages of [
          'where distance(@.at, :from) < :metres',
          'where :metres >= distance(:from, @.at) && @.n > 0',
          'best 5 by -distance(@.at, :from) as score',
          'where @.n == 1\nbest 70 by -distance(:from, @.at) as score',
          'best 6 by -distance(@.at, :from), @.n weight 2 as score',
          'order by distance(@.at, :from)\nlimit 4',
          'where @.n > 0\norder by distance(@.at, :from) desc\noffset 2\nlimit 3',
        ]) {
          const ask = (more: object) => engine.query({ pipeline: `from c\n${stages}`, parameters, ...more });
          const [scanned, insisted] = await Promise.all([ask({ ignoreIndexes: ['places'] }), ask({ useIndex: ['places'] })]);
          expect({ stages, rows: insisted.ok && insisted.value.documents }).toEqual({ stages, rows: scanned.ok && scanned.value.documents });
          if (insisted.ok && JSON.stringify(insisted.value.plan).includes('"index":"places"')) used.add(stages);
        }
        const checks = await collection.checkIndexes(host.pause);
        expect(checks?.[1]).toMatchObject({ missing: 0, misplaced: 0, entries: checks?.[1]?.expected });
      },
    ),
    { numRuns: 150 },
  );
  expect(used.size).toBe(5);
}); // prettier-ignore

test('many of the nearest come in their order, and few entries are looked at for few of them', async () => {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  for (let i = 0; i < 20_000; i++) collection.store.put(i, { id: i, at: [((i * 7919) % 3_600) / 10 - 180, ((i * 104_729) % 1_800) / 10 - 90] }); // prettier-ignore
  await collection.buildIndex(readIndex({ kind: 'place', keys: ['@.at'] }), host.pause);
  const ask = async (count: number, more = {}) => {
    const answer = await engine.query({ pipeline: `from c\nbest ${count} by -distance(@.at, [9.9, 46.1]) as s\nselect @.id, @.s`, pageSize: 10_000, ...more }); // prettier-ignore
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  const few = await ask(10);
  expect(few.plan.inputs[0]).toMatchObject({ step: 'place index search', index: 'at_place' });
  expect(few.cost).toMatchObject({ documentsRead: 10, indexEntriesRead: 64 });
  expect((await ask(3_000)).documents).toEqual((await ask(3_000, { ignoreIndexes: ['at_place'] })).documents);
});

test('the first of an order by distance come from the index where every document has a place, and only they are read', async () => {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  for (let i = 0; i < 3_000; i++) collection.store.put(i, made(i, { at: [(i * 37) % 360, ((i * 17) % 120) - 60], n: i % 3 }));
  await collection.buildIndex(readIndex({ name: 'places', kind: 'place', keys: ['@.at'] }), host.pause);
  const ask = async (stages: string, from: Json, more: object = {}) => {
    const answer = await engine.query({ pipeline: `from c\n${stages}`, parameters: { from }, ...more });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  const first = 'order by distance(@.at, :from)\nlimit 7\nselect @.id';
  for (const stages of [first, 'where @.n == 1\norder by distance(:from, @.at)\noffset 3\nlimit 5']) {
    const near = await ask(stages, [10, 46]);
    expect(near.documents).toEqual((await ask(stages, [10, 46], { ignoreIndexes: ['places'] })).documents);
    expect(JSON.stringify(near.plan)).toContain('place index search');
    expect(near.cost.documentsRead).toBeLessThan(60);
  }
  // The farthest are no nearest, no place is near nowhere, and a document without one has its place in an order too.
  expect(JSON.stringify((await ask('order by distance(@.at, :from) desc\nlimit 2', [10, 46])).plan)).not.toContain('place index search');
  expect(JSON.stringify((await ask(first, 'nowhere')).plan)).not.toContain('place index search');
  await collection.apply([{ position: 3_000, document: { id: 3_000 } }]);
  const withOne = await ask(first, [10, 46]);
  expect(withOne.documents).toHaveLength(7);
  expect(JSON.stringify(withOne.plan)).not.toContain('place index search');
});
