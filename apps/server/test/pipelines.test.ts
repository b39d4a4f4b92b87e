import { queryResult, storeResult, type QueryAnswer } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  const fill = async (name: string, documents: unknown[]) => {
    await server.call('POST', '/collections', { name });
    await server.call('POST', `/collections/${name}/documents`, documents);
  };
  await fill(
    'huts',
    Array.from({ length: 30 }, (_, i) => ({ id: `h${i}`, region: `r${i % 4}`, altitudeM: 1_000 + i })),
  );
  await fill(
    'bookings',
    Array.from({ length: 600 }, (_, i) => ({
      id: i,
      hutId: `h${i % 40}`,
      status: i % 3 ? 'arrived' : 'late',
      size: i % 5,
      nights: [{ fee: 10 }, { fee: i % 7 }],
    })),
  );
});
afterAll(() => server.remove());

const query = async (pipeline: string, more: object = {}) =>
  queryResult.parse((await server.call('POST', '/query', { pipeline, pageSize: 1_000, ...more })).body);
const put = (name: string, body: object, force = '') =>
  server.call<{ detail: string; users: string[] }>('PUT', `/pipelines/${name}${force}`, body);

test('the example of the notation runs over HTTP: filter, join, unnest, group, order', async () => {
  const answer: QueryAnswer = await query(
    'from bookings\nwhere @.status == "late" && @.size >= :least\nleft join huts as hut on hut.id == @.hutId\nunnest @.nights as night\ncompute fee = @.night.fee * @.size\ngroup by @.hut.region as region\n  measure fees = sum(@.fee), parties = count()\norder by @.fees desc, @.region\nlimit 3',
    { parameters: { least: 3 } },
  );
  const late = Array.from({ length: 600 }, (_, i) => i).filter((i) => i % 3 === 0 && i % 5 >= 3);
  const byRegion = new Map<string | undefined, { fees: number; parties: number }>();
  for (const i of late) {
    const region = i % 40 < 30 ? `r${(i % 40) % 4}` : undefined;
    const sums = byRegion.get(region) ?? { fees: 0, parties: 0 };
    byRegion.set(region, { fees: sums.fees + (10 + (i % 7)) * (i % 5), parties: sums.parties + 2 });
  }
  const expected = [...byRegion]
    .map(([region, sums]) => ({ ...(region && { region }), ...sums }))
    .sort((a, b) => b.fees - a.fees)
    .slice(0, 3);
  expect(answer.documents).toEqual(expected);
  expect(answer.lines.map(({ line, rowsOut }) => [line, rowsOut])).toEqual([
    [1, 600],
    [2, 80],
    [3, 80],
    [4, 160],
    [5, 160],
    [6, 5],
    [8, 5],
    [9, 3],
  ]);
  expect(answer.rewrites.map(({ rule }) => rule)).toContain('unnest joined to group');
  expect(answer.cost.documentsRead).toBe(630);
});

test('views are sources of others; those in use are not lost unseen', async () => {
  expect((await put('late_ones', { pipeline: 'from bookings\nwhere @.status == "late"', view: true })).status).toBe(200);
  expect((await query('from late_ones\njoin huts as h on h.id == @.hutId\ngroup all measure n = count()')).documents).toEqual([{ n: 150 }]);
  await put('By region', { pipeline: 'from late_ones\ngroup by @.size measure n = count()' });
  expect((await server.call('DELETE', '/pipelines/late_ones')).body).toMatchObject({ type: '/problems/in-use', users: ['By region'] });
  expect((await put('late_ones', { pipeline: 'from bookings', view: false })).status).toBe(409);
  expect((await put('late_ones', { pipeline: 'from late_ones', view: true })).body.detail).toContain('would read itself');
  expect((await put('huts', { pipeline: 'from bookings', view: true })).status).toBe(409);
  expect((await put('two words', { pipeline: 'from bookings', view: true })).status).toBe(400);
  expect((await put('broken', { pipeline: 'from bookings\nwhere', view: true })).status).toBe(422);
  expect((await server.call('POST', '/collections', { name: 'late_ones' })).status).toBe(409);
  await server.kill('SIGTERM');
  await server.start();
  expect((await query('from late_ones')).rowsReturned).toBe(200);
  expect((await server.call('DELETE', '/pipelines/late_ones?force=true')).status).toBe(204);
  expect((await server.call('POST', '/query', { pipeline: 'from late_ones' })).body).toMatchObject({
    diagnostics: [{ code: 'unknown-collection' }],
  });
});

test('the rows of a run are stored: new, in place, after, merged; all or nothing', async () => {
  const run = await query('from huts\ngroup by @.region as id measure huts = count(), highest = max(@.altitudeM)');
  const store = (body: object, runId = run.runId) => server.call('POST', `/runs/${runId}/store`, body);
  expect(storeResult.parse((await store({ collection: 'regions', mode: 'new' })).body)).toEqual({
    collection: 'regions',
    inserted: 4,
    replaced: 0,
  });
  expect((await query('from regions\norder by @.highest desc\nlimit 1')).documents).toEqual([{ id: 'r1', huts: 8, highest: 1029 }]);
  expect((await store({ collection: 'regions', mode: 'new' })).status).toBe(409);
  expect((await store({ collection: 'regions', mode: 'append' })).status).toBe(409);
  expect((await query('from regions')).rowsReturned).toBe(4);
  const other = await query('from huts\nwhere @.altitudeM < 1010\ngroup by @.region as id measure huts = count()\nlimit 2');
  expect((await store({ collection: 'regions', mode: 'merge' }, other.runId)).body).toMatchObject({ inserted: 0, replaced: 2 });
  expect((await query('from regions\nwhere !@.highest')).rowsReturned).toBe(2);
  expect((await store({ collection: 'regions', mode: 'replace' }, other.runId)).body).toMatchObject({ inserted: 2 });
  expect((await query('from regions')).rowsReturned).toBe(2);
  expect((await server.call('GET', '/collections/regions')).body).toMatchObject({ count: 2 });
});

test('a view that is renamed is read under its new name by those that read it', async () => {
  await put('sizes', { pipeline: 'from bookings\nwhere @.size > 2', view: true });
  const text = '# all sizes\nfrom huts  # first\njoin   sizes as sizes on sizes.hutId == @.id\ngroup all measure n = count()';
  await put('Counted', { pipeline: text });
  const before = (await query(text)).documents;
  const done = await server.call('PATCH', '/pipelines/sizes', { name: 'large_ones' });
  expect(done).toMatchObject({ status: 200, body: { name: 'large_ones', rewritten: ['Counted'] } });
  const { pipeline } = (await server.call<{ pipeline: string }>('GET', '/pipelines/Counted')).body;
  expect(pipeline).toBe(text.replace('join   sizes', 'join   large_ones'));
  expect((await query(pipeline)).documents).toEqual(before);
  expect((await server.call('GET', '/pipelines/sizes')).status).toBe(404);
  expect((await server.call('PATCH', '/pipelines/large_ones', { name: 'huts' })).status).toBe(409);
  expect((await server.call('PATCH', '/pipelines/large_ones', { name: 'Counted' })).status).toBe(409);
});

test('rows are stored where unique indexes let them, in every mode, or none are', async () => {
  const rowsOf = async (pipeline: string) => (await query(pipeline)).runId;
  const store = (runId: string, mode: string) => server.call('POST', `/runs/${runId}/store`, { collection: 'keyed', mode });
  const all = async () => (await query('from keyed\norder by @.id')).documents;
  await server.call('POST', '/collections', { name: 'keyed' });
  await server.call('POST', '/collections/keyed/indexes', { keys: ['@.key'], unique: true });
  const first = [
    { id: 1, key: 'a' },
    { id: 2, key: 'b' },
  ];
  await server.call('POST', '/collections/keyed/documents', first);
  const same = await rowsOf('from keyed');
  const swapped = await rowsOf('from keyed\ncompute key = if(@.id == 1, "b", "a")');
  const others = await rowsOf('from keyed\ncompute id = @.id + 10');
  const fresh = await rowsOf('from keyed\ncompute id = @.id + 10, key = concat(@.key, "2")');
  const alike = await rowsOf('from keyed\ncompute key = "one"');

  expect(await store(others, 'append')).toMatchObject({ status: 422, body: { type: '/problems/unique' } });
  expect(await store(alike, 'replace')).toMatchObject({ status: 422, body: { type: '/problems/unique' } });
  expect(await all()).toEqual(first);
  expect(await store(same, 'merge')).toMatchObject({ status: 200, body: { replaced: 2 } });
  expect(await store(swapped, 'replace')).toMatchObject({ status: 200, body: { inserted: 2 } });
  expect(await all()).toEqual([
    { id: 1, key: 'b' },
    { id: 2, key: 'a' },
  ]);
  expect(await store(fresh, 'append')).toMatchObject({ status: 200, body: { inserted: 2 } });
  expect(await all()).toHaveLength(4);
  // Replaced by an import, a document may keep its own key.
  const kept = await server.call('POST', '/collections/keyed/import?onDuplicate=replace', '{"id":1,"key":"b","n":1}\n{"id":3,"key":"b"}', {
    'content-type': 'application/x-ndjson',
  });
  expect(kept.body).toMatchObject({ replaced: 1, inserted: 0, rejected: [{ line: 2 }] });
});
