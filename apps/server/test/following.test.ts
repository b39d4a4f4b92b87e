import type { MaterializedInfo, PlanAnswer, SavedPipeline } from '@zesty-sieve/contract';
import { seededNumbers } from '@zesty-sieve/core';
import { TestServer } from './server.ts';

/** Views whose rows follow each change: fresh and right once a write is acknowledged, however it is made. */

const server = new TestServer();
const views = {
  by_hut:
    'from stays\nwhere @.fee > 1\ngroup by @.hut, @.month measure n = count(), fees = sum(@.fee), first = first(@.id)\norder by @.fees desc',
  by_region: 'from stays\njoin huts as hut on hut.id == @.hut\ngroup by @.hut.region as region measure n = count(), mean = avg(@.fee)',
  finest: 'from stays\ngroup by @.month, @.hut measure fees = sum(@.fee), mean = avg(@.fee)',
  paid: 'from stays\nwhere @.paid == true\nselect @.id, @.hut, @.fee',
  large: 'from by_hut\nwhere @.n > 9\nselect @.hut, @.n',
};
const patch = { 'content-type': 'application/merge-patch+json' };
const names = Object.keys(views);
const stay = (id: number) => ({ id, hut: id % 7, month: id % 12, fee: (id % 90) / 10, paid: id % 3 === 0 });

beforeAll(async () => {
  await server.start();
  for (const name of ['stays', 'huts']) await server.call('POST', '/collections', { name });
  await server.call(
    'POST',
    '/collections/stays/documents',
    Array.from({ length: 900 }, (_, id) => stay(id)),
  );
  await server.call('POST', '/collections/huts/documents', Array.from({ length: 7 }, (_, id) => ({ id, region: id % 2 ? 'north' : 'south' }))); // prettier-ignore
  for (const [name, pipeline] of Object.entries(views)) await server.call('PUT', `/pipelines/${name}`, { pipeline, view: true, materialized: { refresh: 'on change' } }); // prettier-ignore
});
afterAll(() => server.remove());

const info = async (name: string): Promise<MaterializedInfo> =>
  (await server.call<SavedPipeline>('GET', `/pipelines/${name}`)).body.materialized!;
const coarser = [
  'from stays\ngroup by @.month measure mean = avg(@.fee), total = sum(@.fee)',
  'from stays\nwhere @.month < 7\ngroup all measure fees = sum(@.fee), mean = avg(@.fee)',
];
const answerOf = async (pipeline: string, ignoreViews: readonly string[] = []) =>
  (await server.call<{ documents: unknown[]; sources: { view: string }[] }>('POST', '/query', { pipeline, pageSize: 1_000, ignoreViews })).body; // prettier-ignore
const rowsOf = async (pipeline: string, ignoreViews: readonly string[] = []) => (await answerOf(pipeline, ignoreViews)).documents;

async function untilFresh(): Promise<void> {
  for (let i = 0; i < 200; i++) {
    if ((await Promise.all(names.map(info))).every(({ state }) => state === 'fresh')) return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error(JSON.stringify(await Promise.all(names.map(info))));
}

/** Fresh at once, and the rows that the pipeline gives when it is worked out from the documents, in their order. */
async function isRight(): Promise<void> {
  for (const name of names) {
    expect([name, (await info(name)).state]).toEqual([name, 'fresh']);
    const anew = name === 'large' ? `${views.by_hut}\nwhere @.n > 9\nselect @.hut, @.n` : views[name as 'by_hut'];
    expect([name, await rowsOf(`from ${name}`)]).toEqual([name, await rowsOf(anew, names)]);
  }
  for (const question of coarser) {
    const { documents, sources } = await answerOf(question);
    expect([documents, sources]).toEqual([await rowsOf(question, names), [expect.objectContaining({ view: 'finest' })]]);
  }
}

test('after each write that is acknowledged they are fresh, and as if they were worked out', async () => {
  await untilFresh();
  for (const name of names) expect((await info(name)).follows).toBe('each change');
  const random = seededNumbers(20_261_130);
  const some = (n: number) => Math.floor(random() * n);
  const writes: readonly (() => Promise<{ status: number }>)[] = [
    () => {
      const id = some(900);
      return server.call('PUT', `/collections/stays/documents/${id}`, { ...stay(id), hut: some(8), fee: some(99) / 7 });
    },
    () => server.call('PATCH', `/collections/stays/documents/${some(900)}`, { hut: some(9), paid: some(2) === 0 }, patch),
    () => server.call('DELETE', `/collections/stays/documents/${some(900)}`),
    () => server.call('POST', '/collections/stays/documents', Array.from({ length: 20 }, (_, at) => ({ ...stay(some(900)), id: 10_000 + some(1e9) + at }))),
    () => server.call('PATCH', `/collections/huts/documents/${some(7)}`, { region: ['north', 'south', 'east'][some(3)] }, patch),
    () => server.call('POST', '/changes', { change: `from stays\nwhere @.hut == ${some(7)} && @.month == ${some(12)}\nset @.fee = @.fee + 1` }),
  ]; // prettier-ignore
  const before = (await info('by_hut')).refreshMs;
  for (let i = 0; i < 60; i++) {
    const { status } = await writes[i % writes.length]!();
    expect([200, 201, 204, 404]).toContain(status);
    await isRight();
  }
  const { following, refreshMs } = await info('by_hut');
  expect(following!.changes).toBeGreaterThan(40);
  // None of this was made anew as a whole.
  expect(refreshMs).toBe(before);
}, 120_000);

test('writers at once on both sides of a join leave them fresh and right', async () => {
  const written = await Promise.all(
    Array.from({ length: 40 }, (_, i) =>
      i % 4 === 0
        ? server.call('PATCH', `/collections/huts/documents/${i % 7}`, { region: `r${i}` }, patch)
        : server.call('PATCH', `/collections/stays/documents/${i * 11}`, { fee: i }, patch),
    ),
  );
  expect(new Set(written.map(({ status }) => status))).toEqual(new Set([200, 404]));
  await untilFresh();
  await isRight();
});

test('a large load leaves them stale in its commit, and they catch up by themselves; a restart finds what was stored', async () => {
  const many = Array.from({ length: 3_000 }, (_, at) => stay(2_000_000 + at));
  await server.call('POST', '/collections/stays/documents', many);
  await untilFresh();
  await isRight();
  // So that rows stand where they would not if they were laid out anew.
  await server.call('PATCH', '/collections/stays/documents/5', { fee: 70, hut: 77 }, patch);
  await isRight();
  const made = async () => (await Promise.all(names.map(info))).map(({ refreshMs }) => refreshMs);
  const before = await made();
  await server.kill();
  await server.start();
  await isRight();
  // Taken up again behind whoever asks: the next change is followed, and nothing is made anew.
  await new Promise((resolve) => setTimeout(resolve, 3_000));
  for (const [id, fee] of [
    [2_000_001, 77],
    [7, 0.1],
    [2_000_002, 500],
  ] as const) {
    await server.call('PATCH', `/collections/stays/documents/${id}`, { fee, hut: fee }, patch);
    await isRight();
  }
  expect(await made()).toEqual(before);
});

test('a change of many that is taken back, a file, and a clearing leave them right', async () => {
  const { body } = await server.call<{ changeId: string }>('POST', '/changes', { change: 'from stays\nwhere @.month == 3\nset @.fee = 2.5' });
  await untilFresh();
  await isRight();
  expect((await server.call('POST', `/changes/${body.changeId}/undo`)).status).toBe(200);
  await untilFresh();
  await isRight();
  const lines = Array.from({ length: 1_500 }, (_, at) => JSON.stringify(stay(3_000_000 + at))).join('\n');
  expect((await server.call('POST', '/collections/stays/import', lines, { 'content-type': 'application/x-ndjson' })).status).toBe(200);
  await untilFresh();
  await isRight();
  expect((await server.call('DELETE', '/collections/stays/documents')).status).toBe(200);
  await untilFresh();
  for (const name of names) expect([name, await rowsOf(`from ${name}`)]).toEqual([name, []]);
  await server.call('POST', '/collections/stays/documents', Array.from({ length: 300 }, (_, id) => stay(id)));
  await untilFresh();
  await isRight();
}, 60_000); // prettier-ignore

test('a plan tells whether rows could follow, before one chooses to keep them', async () => {
  const plan = async (pipeline: string) => (await server.call<PlanAnswer>('POST', '/plan', { pipeline })).body;
  const { follows, followCosts } = await plan(views.by_region);
  expect(follows).toBe('each change');
  // Of each side, measured on documents that are there.
  expect(followCosts!.map(({ collection, us }) => [collection, us > 0 && us < 1_000_000])).toEqual([['stays', true], ['huts', true]]);
  expect(await plan('from stays\norder by @.fee\nlimit 3')).toMatchObject({
    follows:
      'lines 1–2 can follow each change, line 3 cannot, since "limit 3" depends on rows that do not change: its rows are worked out afresh, in the background',
    followCosts: [],
  });
  // A median does not go on from what is kept: its groups are gone through.
  expect((await plan('from stays\ngroup by @.hut measure middle = median(@.fee)')).followCosts).toMatchObject([{ collection: 'stays' }]);
}); // prettier-ignore
