import { advice, indexUsers, keptRunDetail, pairResult, runList, settings, whatIfResult, type IndexInfo } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'huts' });
  const documents = Array.from({ length: 6_000 }, (_, i) => ({
    id: i,
    status: i % 60 === 0 ? 'late' : 'fine',
    size: i % 13,
    at: (i * 7_919) % 6_000,
  }));
  await server.call('POST', '/collections/huts/documents', documents);
});
afterAll(() => server.remove());

const query = (pipeline: string, more: object = {}) =>
  server.call<{ runId: string; cost: { documentsRead: number } }>('POST', '/query', { pipeline, ...more });
const runs = async (search = '') => runList.parse((await server.call('GET', `/runs${search}`)).body);
const late = 'from huts\nwhere @.status == "late"';

test('runs are kept with their costs and plans; drafts are not; the most wasteful and the stopped ones are found', async () => {
  await server.call('PUT', '/pipelines/Late%20ones', { pipeline: `${late}\n` });
  const { runId } = (await query(late)).body;
  await query('from huts\nlimit 5');
  await query(late, { readAtMost: 100 });
  await query(late, { throughLine: 1 });
  expect((await query('from huts\norder by @.at', { guards: { memoryBytes: 1_000 } })).status).toBe(422);
  const { runs: kept, total } = await runs();
  expect(total).toBe(3);
  expect(kept.map(({ pipeline, name, guard }) => [pipeline.split('\n')[1], name, guard?.kind])).toEqual([
    ['order by @.at', null, 'guard-memory'],
    ['limit 5', null, undefined],
    ['where @.status == "late"', 'Late ones', undefined],
  ]);
  expect((await runs('?order=wasteful&stopped=false')).runs[0]).toMatchObject({
    id: runId,
    cost: { documentsRead: 6_000, rowsReturned: 100 },
  });
  expect((await runs('?stopped=true')).total).toBe(1);
  expect((await runs('?text=LIMIT')).total).toBe(1);
  expect((await runs('?name=Late%20ones&collection=huts')).total).toBe(1);
  expect((await runs('?collection=none')).total).toBe(0);
  // Each question once: the run that leads in the order, with how many it stands for.
  await query('from huts\nlimit 5');
  await query('from huts\nlimit :n', { parameters: { n: 5 } });
  await query('from huts\nlimit :n', { parameters: { n: 6 } });
  const once = await runs('?once=true&order=slowest&text=limit');
  expect(once.total).toBe(3);
  const all = (await runs('?order=slowest&text=limit')).runs;
  expect(all).toHaveLength(4);
  for (const run of once.runs) {
    const same = all.filter(
      ({ pipeline, parameters }) => pipeline === run.pipeline && JSON.stringify(parameters) === JSON.stringify(run.parameters),
    );
    expect([run.times, run.id]).toEqual([same.length, same[0].id]);
  }
  expect((await runs('?once=true&order=slowest&text=limit&size=1&offset=1')).runs).toEqual([once.runs[1]]);
  expect((await runs('?once=true&stopped=true')).runs.map(({ times }) => times)).toEqual([1]);
  const detail = keptRunDetail.parse((await server.call('GET', `/runs/${runId}`)).body);
  expect([detail.plan.step, detail.plan.rows, detail.indexSet]).toEqual(['full scan', 100, { huts: ['identity'] }]);
  const stopped = keptRunDetail.parse((await server.call('GET', `/runs/${kept[0].id}`)).body);
  expect(stopped.plan.inputs[0].documentsRead).toBeGreaterThan(0);
  expect(stopped.guard).toMatchObject({ line: 2, limit: 1_000 });
  expect((await server.call('GET', '/runs/nobody')).status).toBe(410);
});

test('the baseline of a pipeline stays when older runs go, and the bound is kept', async () => {
  const [{ id }] = (await runs('?name=Late%20ones')).runs;
  expect((await server.call('PUT', '/pipelines/Late%20ones/baseline', { runId: id })).status).toBe(204);
  expect(settings.parse((await server.call('PUT', '/settings', { runsKept: 10 })).body).runsKept).toBe(10);
  for (let i = 0; i < 15; i++) await query(`from huts\nlimit ${i}`);
  const { runs: kept, total } = await runs();
  expect(total).toBe(10);
  expect(kept.find((run) => run.id === id)?.baseline).toBe(true);
  expect((await server.call('PUT', '/pipelines/Nobody/baseline', { runId: id })).status).toBe(404);
  await server.call('PUT', '/settings', { runsKept: 2_000 });
});

test('guards of the settings hold where a run gives none, and outlive the server', async () => {
  await server.call('PUT', '/settings', { guards: { documentsRead: 500 } });
  expect((await query(late)).status).toBe(422);
  expect((await query(late, { guards: { documentsRead: 10_000 } })).status).toBe(200);
  await server.kill('SIGTERM');
  await server.start();
  expect((await query(late)).body).toMatchObject({ type: '/problems/guard-documents-read', reached: 500, limit: 500, line: 1 });
  expect((await server.call('PUT', '/settings', { guards: { documentsRead: -1 } })).status).toBe(400);
  await server.call('PUT', '/settings', { guards: { documentsRead: 1_000_000 } });
});

test('advice is drawn from the runs: what to build, what is of no use, what another covers', async () => {
  for (let i = 0; i < 12; i++) await query(late);
  for (let i = 0; i < 3; i++) await query('from huts\nwhere @.status == "late" && @.size == 3');
  await server.call('POST', '/collections/huts/indexes', { name: 'idle', keys: ['@.size desc'] });
  const before = advice.parse((await server.call('GET', '/advice')).body);
  expect(before.build[0]).toMatchObject({ collection: 'huts' });
  expect(before.build[0].keys[0]).toBe('@.status');
  expect(before.build[0].serves[0]).toMatchObject({ name: 'Late ones', documentsRead: 6_000 });
  expect(before.build[0].serves[0].instead).toBeLessThan(300);
  expect(before.unused.map(({ index }) => index)).toEqual(['idle']);

  await server.call('POST', '/collections/huts/indexes', { name: 'status', keys: ['@.status'] });
  await server.call('POST', '/collections/huts/indexes', { name: 'both', keys: ['@.status', '@.size'] });
  const after = advice.parse((await server.call('GET', '/advice')).body);
  expect(after.build.filter(({ keys }) => keys[0] === '@.status')).toEqual([]);
  expect(after.covered).toMatchObject([{ index: 'status', by: 'both' }]);
});

test('an index tells how often it was used, by whom, and what its values are; two questions are measured in turn', async () => {
  await query(late);
  await query(late);
  const { indexes } = (await server.call<{ indexes: IndexInfo[] }>('GET', '/collections/huts/indexes')).body;
  const used = indexes.filter(({ uses }) => uses > 0);
  expect(used.map(({ name, uses }) => [name, uses])).toEqual([[used[0].name, 2]]);
  expect(used[0].lastUsedAt).toMatch(/^20/);
  const { users } = indexUsers.parse((await server.call('GET', `/collections/huts/indexes/${used[0].name}/users`)).body);
  expect(users.find(({ name }) => name === 'Late ones')).toMatchObject({ documentsRead: 100 });
  const summary = (await server.call('GET', '/collections/huts/indexes/status/summary')).body;
  expect(summary).toMatchObject({
    entries: 6_000,
    absent: 0,
    least: 'fine',
    greatest: 'late',
    common: [
      { value: 'fine', count: 5_900 },
      { value: 'late', count: 100 },
    ],
  });
  const pair = await server.call('POST', '/measure/pair', {
    first: { pipeline: late, ignoreIndexes: ['status', 'both'] },
    second: { pipeline: late },
    times: 3,
  });
  expect(pairResult.parse(pair.body)).toMatchObject({
    first: { documentsRead: 6_000 },
    second: { documentsRead: 100 },
    sameSet: true,
    sameOrder: true,
    rows: [100, 100],
  });
});

test('an index that is not built is held against what was asked before', async () => {
  const asked = { indexes: [{ collection: 'huts', keys: ['@.at'] }] };
  const nothing = (await server.call('POST', '/what-if', asked)).body;
  expect(nothing).toMatchObject({ serves: [] });
  await query('from huts\nwhere @.at < 20');
  const { body } = await server.call('POST', '/what-if', asked);
  expect(body).toMatchObject({ serves: [{ pipeline: 'from huts\nwhere @.at < 20', documentsRead: 6_000, runs: 1 }] });
  // What it would take, by a sample, is about what it takes.
  const [cost] = body['costs'] as { entries: number; bytes: number; buildMs: number }[];
  expect(cost!.entries).toBe(6_000);
  expect(cost!.bytes).toBeGreaterThan(6_000);
  expect(cost!.buildMs).toBeGreaterThan(0);
  expect((await server.call('POST', '/what-if', { indexes: [{ collection: 'huts', keys: ['@.'] }] })).status).toBe(422);
});

test('lines whose rows are not kept are held against what was asked before, as if they were', async () => {
  const summary = 'from huts\ngroup by @.size measure parties = count(), at = sum(@.at)';
  const coarse = 'from huts\ngroup all measure total = sum(@.at), parties = count()';
  await query(summary);
  await query(coarse);
  await query('from huts\ngroup by @.at measure parties = count()');
  const { status, body } = await server.call('POST', '/what-if', { views: [{ pipeline: summary }] });
  expect(status).toBe(200);
  const { views } = whatIfResult.parse(body);
  const rows = (await server.call('POST', '/query', { pipeline: summary })).body['rowsReturned'];
  expect(views).toMatchObject([{ rows, follows: 'each change', followCosts: [{ collection: 'huts' }] }]);
  expect(views[0]!.serves.map(({ pipeline, documentsRead, instead }) => [pipeline, documentsRead, instead]).sort()).toEqual([
    [coarse, 6_000, rows],
    [summary, 6_000, rows],
  ]);
  // None of it is kept, and what cannot be read is refused.
  expect((await server.call('POST', '/query', { pipeline: summary })).body['sources']).toEqual([]);
  for (const asked of [{ views: [{ pipeline: 'from nowhere' }] }, { views: [{ pipeline: 'from huts\nwhere' }] }, {}])
    expect((await server.call('POST', '/what-if', asked)).status).toBe('views' in asked ? 422 : 400);
});

test('several indexes that are not built are planned against at once', async () => {
  const body = {
    pipeline: 'from huts\nwhere @.size == 3 || @.at < 50',
    whatIf: [
      { keys: ['@.at'], name: 'a' },
      { keys: ['@.size'], name: 's' },
    ],
    ignoreIndexes: ['idle'],
  };
  const { body: planned } = await server.call<{
    plan: { step: string; rows: null; indexes: string[] };
    weighed: { whatIf: boolean; chosen: boolean }[];
  }>('POST', '/plan', body);
  expect([planned.plan.step, planned.plan.rows, planned.plan.indexes]).toEqual(['index union', null, ['s', 'a']]);
  expect(planned.weighed.find(({ chosen }) => chosen)?.whatIf).toBe(true);
});

test('indexes that alternatives take together are advised together, and without those that have been built since', async () => {
  await server.call('POST', '/collections', { name: 'cabins' });
  const cabins = Array.from({ length: 6_000 }, (_, i) => ({ id: i, size: (i * 31) % 600, lane: `l${(i * 7_919) % 500}` }));
  await server.call('POST', '/collections/cabins/documents', cabins);
  const pipeline = 'from cabins\nwhere @.size == 3 || @.lane == "l7"';
  await query(pipeline);
  const advised = async () => {
    const { body } = await server.call('GET', '/advice');
    const found = advice.parse(body).build.find(({ collection }) => collection === 'cabins');
    return found && [found.keys, ...(found.beside ?? [])];
  };
  expect(await advised()).toEqual([['@.size'], ['@.lane']]);
  await server.call('POST', '/collections/cabins/indexes', { keys: ['@.size'] });
  expect(await advised()).toEqual([['@.lane']]);
  await server.call('POST', '/collections/cabins/indexes', { keys: ['@.lane'] });
  expect(await advised()).toBeUndefined();
});

test('a beginning that is asked again and again, and reads much for few rows, is advised as a view; one that is kept is not', async () => {
  const beginning = 'from huts\nwhere @.at > 3 && @.size >= 0\ngroup by @.size measure n = count()';
  await query(`${beginning}\norder by @.n`);
  await query('from huts\nwhere @.size >= 0\nwhere @.at > 3\ngroup by @.size measure n = count()\nlimit 2');
  const viewsOf = async () => advice.parse((await server.call('GET', '/advice')).body).views;
  expect((await viewsOf()).filter(({ pipeline }) => pipeline.includes('measure n'))).toEqual([]);
  await query(`${beginning}\norder by @.size`);
  const advised = (await viewsOf()).find(({ pipeline }) => pipeline.includes('measure n'));
  expect(advised).toMatchObject({ collection: 'huts', runs: 3, rows: 13, documentsSaved: 3 * (6_000 - 13) });
  await server.call('PUT', '/pipelines/by_size', { pipeline: advised!.pipeline, view: true, materialized: { refresh: 'on demand' } });
  expect((await viewsOf()).filter(({ pipeline }) => pipeline.includes('measure n'))).toEqual([]);
});

test('of a group that a limit stopped nobody knows how many rows it would be, so that none are told', async () => {
  const beginning = 'from huts\nwhere @.at > 3 && @.size > 0\ngroup by @.size measure most = max(@.at)';
  const advisedRows = async () =>
    advice
      .parse((await server.call('GET', '/advice')).body)
      .views.filter(({ pipeline }) => pipeline.includes('most'))
      .map(({ rows }) => rows);
  for (const limit of [1, 2, 3, 4]) await query(`${beginning}\nlimit ${limit}`);
  expect(await advisedRows()).toEqual([]);
  for (const by of ['@.size', '@.most', '@.size desc']) await query(`${beginning}\norder by ${by}\nlimit 1`);
  expect(await advisedRows()).toEqual([12]);
});
