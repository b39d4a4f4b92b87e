import type { MaterializedInfo, SavedPipeline } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

const server = new TestServer();
const stays = Array.from({ length: 3_000 }, (_, id) => ({ id, hut: `h${id % 7}`, month: id % 12, fee: (id % 90) / 10 }));
beforeAll(async () => {
  await server.start();
  await server.call('POST', '/collections', { name: 'stays' });
  await server.call('POST', '/collections/stays/documents', stays);
});
afterAll(() => server.remove());

interface Answer {
  documents: Record<string, unknown>[];
  rowsReturned: number;
  cost: { documentsRead: number };
  sources: { view: string; state: string; refreshedAt: string | null }[];
  weighed: { way: string; collection: string; chosen: boolean; reason: string }[];
}
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const ask = async (pipeline: string, more: object = {}) => {
  const { status, body } = await server.call<Answer>('POST', '/query', { pipeline, pageSize: 1_000, ...more });
  expect([status, body]).toEqual([200, body]);
  return body;
};
const byHut = 'from stays\ngroup by @.hut, @.month measure n = count(), fees = sum(@.fee)';
const save = (name: string, pipeline: string, refresh: unknown) =>
  server.call<SavedPipeline>('PUT', `/pipelines/${name}`, { pipeline, view: true, materialized: refresh === null ? null : { refresh } });
const info = async (name: string) => (await server.call<SavedPipeline>('GET', `/pipelines/${name}`)).body.materialized!;
async function until(name: string, state: MaterializedInfo['state']): Promise<MaterializedInfo> {
  for (let i = 0; i < 200; i++) {
    const now = await info(name);
    if (now.state === state) return now;
    await pause(50);
  }
  throw new Error(`${name} does not become ${state}: ${JSON.stringify(await info(name))}`);
}

test('a view that is kept answers unasked, by its name and by its index; a change makes it stale at once, and it catches up by itself', async () => {
  expect((await ask(byHut)).cost.documentsRead).toBe(3_000);
  expect((await save('by_hut', byHut, 'on change')).status).toBe(200);
  const made = await until('by_hut', 'fresh');
  expect(made).toMatchObject({ refresh: 'on change', rows: 84, readers: [] });
  const before = await ask(byHut);
  expect(before.cost.documentsRead).toBe(84);
  expect(before.sources).toEqual([{ view: 'by_hut', state: 'fresh', refreshedAt: made.refreshedAt }]);
  expect(before.documents).toEqual((await ask(byHut, { ignoreViews: ['by_hut'] })).documents);
  // With conditions on its columns, coarser, and by name.
  const coarse = 'from stays\nwhere @.month == 3\ngroup by @.hut measure n = count()\norder by @.n desc, @.hut';
  expect((await ask(coarse)).documents).toEqual((await ask(coarse, { ignoreViews: ['by_hut'] })).documents);
  expect((await ask(coarse)).sources).toHaveLength(1);
  expect((await server.call('POST', '/collections/by_hut/indexes', { keys: ['@.hut'] })).status).toBe(201);
  expect((await server.call('POST', '/collections/by_hut/indexes', { keys: ['@.n'], unique: true })).status).toBe(422);
  const named = await ask('from by_hut\nwhere @.hut == "h3"');
  expect([named.rowsReturned, named.cost.documentsRead]).toEqual([12, 12]);
  expect((await server.call('GET', '/collections/by_hut/shape')).body).toMatchObject({ count: 84 });

  // A write that is acknowledged is in every answer from then on, whatever the view has by then.
  await server.call('PUT', '/pipelines/slow', { pipeline: 'from by_hut\nlimit 3', view: true });
  for (let i = 0; i < 20; i++) {
    expect((await server.call('POST', '/collections/stays/documents', { id: `new-${i}`, hut: 'h1', month: 1, fee: 0.1 })).status).toBe(201);
    const [open, without] = await Promise.all([ask(byHut), ask(byHut, { ignoreViews: ['by_hut'] })]);
    expect(open.documents).toEqual(without.documents);
    expect(open.documents.find(({ hut, month }) => hut === 'h1' && month === 1)?.n).toBe(36 + i + 1);
  }
  const after = await until('by_hut', 'fresh');
  expect(after.readers).toEqual(['slow']);
  expect(after.refreshedAt! > made.refreshedAt!).toBe(true);
  expect((await ask(byHut)).cost.documentsRead).toBe(84);
  expect((await ask('from by_hut\nwhere @.hut == "h1" && @.month == 1')).documents).toMatchObject([{ n: 56 }]);
  // Its index has come along.
  expect((await ask('from by_hut\nwhere @.hut == "h3"')).cost.documentsRead).toBe(12);
});

test('on demand: stale rows are read by name alone and say so; refreshing can be watched', async () => {
  await save('once', 'from stays\nwhere @.hut == "h2"\nselect @.id, @.fee', 'on demand');
  const [first] = [await until('once', 'fresh')];
  await server.call('PUT', '/collections/stays/documents/2', { ...stays[2], fee: 77 });
  expect(await info('once')).toMatchObject({ state: 'stale', refreshedAt: first.refreshedAt });
  const named = await ask('from once\nwhere @.id == 2');
  expect(named.documents).toEqual([{ id: 2, fee: 0.2 }]);
  expect(named.sources).toMatchObject([{ view: 'once', state: 'stale' }]);
  const open = await ask('from stays\nwhere @.hut == "h2"\nselect @.id, @.fee\nlimit 1');
  expect(open.documents).toEqual([{ id: 2, fee: 77 }]);
  expect(open.weighed.find(({ collection }) => collection === 'once')).toMatchObject({ chosen: false, reason: 'it is not up to date' });
  const { status, body } = await server.call<MaterializedInfo>('POST', '/pipelines/once/refresh');
  expect([status, body.state]).toEqual([200, 'fresh']);
  expect((await ask('from once\nwhere @.id == 2')).documents).toEqual([{ id: 2, fee: 77 }]);
  expect((await server.call('POST', '/pipelines/none/refresh')).status).toBe(404);
});

test('what could not be used of the documents is said of kept rows too, after a restart as well', async () => {
  await server.call('POST', '/collections', { name: 'odd' });
  await server.call('POST', '/collections/odd/documents', [
    ...Array.from({ length: 300 }, (_, id) => ({ id, k: id % 3, fee: 1 })),
    { id: 'x', k: 1, fee: 'free' },
  ]);
  await save('odd_sums', 'from odd\ngroup by @.k measure fees = sum(@.fee)', 'on change');
  await until('odd_sums', 'fresh');
  const said = async () =>
    (await ask('from odd\ngroup by @.k measure fees = sum(@.fee)\norder by @.k')) as Answer & { notes: { message: string }[] };
  expect((await said()).sources).toHaveLength(1);
  expect((await said()).notes).toMatchObject([
    { message: expect.stringContaining('In the view odd_sums, line 2: @.fee is text in 1 row') as string },
  ]);
  await server.kill();
  await server.start();
  expect((await said()).notes).toHaveLength(1);
  await server.call('DELETE', '/pipelines/odd_sums');
  await server.call('DELETE', '/collections/odd');
});

test('ended by whoever does not want it, it is not made anew before something changes', async () => {
  // Some 700,000 pairs.
  const slow = 'left join stays as s on s.month == @.month';
  await save('ended', `from stays\n${slow}\ngroup by @.hut measure n = count()`, 'on change');
  for (let i = 0; i < 400 && (await info('ended')).state !== 'refreshing'; i++) await pause(5);
  const { status } = await server.call('DELETE', '/pipelines/ended/refresh');
  if (status === 204) {
    await pause(400);
    expect((await info('ended')).state).toBe('stale');
    expect((await server.call<MaterializedInfo>('POST', '/pipelines/ended/refresh')).body.state).toBe('fresh');
  }
  await server.call('DELETE', '/pipelines/ended');
});

test('its rows are its pipeline’s: they are not written, it is no collection, and it keeps its name to itself', async () => {
  const { body } = await server.call<{ collections: { name: string }[] }>('GET', '/collections');
  expect(body.collections.map(({ name }) => name)).toEqual(['stays']);
  for (const [method, path, sent] of [
    ['POST', '/collections/by_hut/documents', { id: 1 }],
    ['DELETE', '/collections/by_hut/documents', undefined],
    ['DELETE', '/collections/by_hut', undefined],
    ['PATCH', '/collections/by_hut', { name: 'other' }],
  ] as const) {
    const answer = await server.call<{ detail: string }>(method, path, sent);
    expect([answer.status, answer.body.detail]).toEqual([409, expect.stringContaining('by_hut is a materialized view')]);
  }
  expect((await server.call('POST', '/collections', { name: 'by_hut' })).status).toBe(409);
  expect((await save('round', 'from round', 'on change')).status).toBe(422);
  // Another pipeline under its name makes its rows anew.
  await save('once', 'from stays\nwhere @.hut == "h3"\nselect @.id', 'on change');
  expect(await until('once', 'fresh')).toMatchObject({ rows: 429 });
  // Renamed, it takes its rows along, and who reads it is written anew.
  expect((await server.call('PATCH', '/pipelines/by_hut', { name: 'huts_by_month' })).body).toMatchObject({ rewritten: ['slow'] });
  expect((await ask('from slow')).rowsReturned).toBe(3);
  expect((await ask('from huts_by_month')).sources).toMatchObject([{ view: 'huts_by_month' }]);
  // Dropped where others read it: only where that is meant.
  expect((await server.call('DELETE', '/pipelines/huts_by_month')).status).toBe(409);
  expect((await server.call('DELETE', '/pipelines/once')).status).toBe(204);
  expect((await server.call('GET', '/collections/once/shape')).status).toBe(404);
  // No longer kept, it is read through.
  await save('huts_by_month', byHut, null);
  expect((await ask('from huts_by_month')).sources).toEqual([]);
  expect((await ask('from huts_by_month')).rowsReturned).toBe(84);
  await save('huts_by_month', byHut, 'on change');
  await until('huts_by_month', 'fresh');
});

test('one that cannot be made keeps the rows that it has, and says why', async () => {
  await server.call('POST', '/collections', { name: 'few' });
  await server.call('POST', '/collections/few/documents', [{ id: 1 }, { id: 2 }]);
  await save('of_few', 'from few\nselect @.id', 'on change');
  await until('of_few', 'fresh');
  await server.call('PATCH', '/collections/few', { name: 'gone' });
  const failed = await until('of_few', 'failed');
  expect(failed.failure?.message).toContain('few');
  expect((await ask('from of_few')).rowsReturned).toBe(2);
  await server.call('PATCH', '/collections/gone', { name: 'few' });
  expect(await until('of_few', 'fresh')).not.toHaveProperty('failure');
});

test.each(['before', 'after'] as const)(
  'where the storage ends %s the rows are stored, it is fresh with the right rows, or not fresh',
  async (when) => {
    await server.kill();
    await server.start({}, 'test/faulty/main.mjs');
    server.plant({ service: 'storage', method: 'storeView', when, what: 'die' });
    await server.call('PUT', '/collections/stays/documents/2', { ...stays[2], fee: when === 'before' ? 88 : 99 });
    for (let i = 0; i < 100 && !server.hasFailed; i++) await pause(50);
    expect(server.hasFailed).toBe(true);
    const asked = await ask(byHut);
    expect(asked.documents).toEqual((await ask(byHut, { ignoreViews: ['huts_by_month'] })).documents);
    await server.kill();
    await server.start();
    await until('huts_by_month', 'fresh');
    expect((await ask(byHut)).sources).toHaveLength(1);
    expect((await ask(byHut)).documents).toEqual((await ask(byHut, { ignoreViews: ['huts_by_month'] })).documents);
  },
  60_000,
);

test('over a view over a view, and after a restart, without being made again', async () => {
  await save('top', 'from huts_by_month\nwhere @.n > 35\ngroup by @.hut measure months = count()', 'on change');
  const made = await until('top', 'fresh');
  await server.call('DELETE', '/collections/stays/documents/new-3');
  await until('top', 'fresh');
  const plain =
    'from stays\ngroup by @.hut, @.month measure n = count(), fees = sum(@.fee)\nwhere @.n > 35\ngroup by @.hut measure months = count()';
  expect((await ask('from top')).documents).toEqual((await ask(plain, { ignoreViews: ['top', 'huts_by_month'] })).documents);
  const last = await info('top');
  expect(last.refreshedAt! > made.refreshedAt!).toBe(true);
  await pause(200);
  await server.kill();
  await server.start();
  expect(await info('top')).toMatchObject({ state: 'fresh', refreshedAt: last.refreshedAt });
  expect((await ask(byHut)).cost.documentsRead).toBe(84);
  // What its sums were before they were rounded has come along.
  const coarse = 'from stays\ngroup by @.hut measure fees = sum(@.fee), mean = avg(@.fee)';
  const coarser = 'from stays\ngroup all measure fees = sum(@.fee), n = count()';
  expect((await ask(coarse)).sources).toEqual([]);
  for (const question of [coarse.replace(', mean = avg(@.fee)', ''), coarser]) {
    const answer = await ask(question);
    expect([answer.cost.documentsRead, answer.sources.length]).toEqual([84, 1]);
    expect(answer.documents).toEqual((await ask(question, { ignoreViews: ['top', 'huts_by_month'] })).documents);
  }
});

test('a kept row tells the documents that it comes from, and a document is traced into it', async () => {
  interface Found { collection: string; count: number; rows: number; documents: { hut: string; month: number }[] } // prettier-ignore
  const pipeline = 'from huts_by_month\nwhere @.hut == "h3"\norder by @.month';
  const [row] = (await ask(pipeline)).documents;
  const { status, body } = await server.call<Found>('POST', '/origins', { pipeline, row, size: 3 });
  expect([status, body.collection, body.rows, body.count]).toEqual([200, 'stays', 1, row!['n']]);
  expect(body.documents.map(({ hut, month }) => [hut, month])).toEqual(Array.from({ length: 3 }, () => ['h3', row!['month']]));
  const { body: traced } = await server.call('POST', '/trace', { pipeline, identity: 3 });
  expect(traced).toMatchObject({ found: true, lines: [{ outcome: 'changed', row: { hut: 'h3' } }, { outcome: 'kept' }, {}] });
  expect((await server.call('POST', '/origins', { pipeline: 'from nowhere', row: 1 })).status).toBe(422);
});

test('whoever reads a view that was never made waits for its rows, in whatever way it is asked', async () => {
  await save('later', 'from stays\nwhere @.hut == "h5"\nselect @.id, @.fee', 'on demand');
  const counts = server.call<{ rows: number }>('POST', '/counts', {
    pipeline: 'from later\nwhere @.fee > 1',
    line: 2,
    conditions: ['@.fee > 1'],
  });
  const sql = server.call<{ rowsReturned: number }>('POST', '/sql', { sql: 'SELECT id FROM later' });
  expect((await ask('from later')).rowsReturned).toBeGreaterThan(400);
  expect((await counts).body.rows).toBeGreaterThan(400);
  expect((await sql).body.rowsReturned).toBeGreaterThan(400);
});

test('how often it is read is counted, in the notation, in SQL and unasked, over a restart; one that nothing reads is named', async () => {
  interface Advised { idleViews: { view: string; wasRead: boolean; runsSince: number }[] } // prettier-ignore
  await save('by_fee', 'from stays\ngroup by @.fee measure n = count()', 'on change');
  await until('by_fee', 'fresh');
  expect(await info('by_fee')).toMatchObject({ uses: 0, lastUsedAt: null });
  const idle = async () => (await server.call<Advised>('GET', '/advice')).body.idleViews.filter(({ view }) => view === 'by_fee');
  expect(await idle()).toEqual([]);
  for (let i = 0; i < 10; i++) await ask(`from stays\nwhere @.id == ${i}`);
  expect(await idle()).toMatchObject([{ wasRead: false, runsSince: 10 }]);
  await ask('from by_fee\nlimit 2');
  await ask('from stays\ngroup by @.fee measure n = count()');
  await server.call('POST', '/sql', { sql: 'SELECT n FROM by_fee' });
  expect(await info('by_fee')).toMatchObject({ uses: 3, lastUsedAt: expect.any(String), saved: expect.any(Number) });
  await server.kill('SIGTERM');
  await server.start();
  expect((await info('by_fee')).uses).toBe(3);
  expect(await idle()).toEqual([]);
});
