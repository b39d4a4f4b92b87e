import { gzipSync } from 'node:zlib';
import { ZestySieve, ZestySieveProblem } from '@zesty-sieve/client';
import { TestServer } from './server.ts';

/** The client as a program uses it, against a server as it is. */
const server = new TestServer();
let client: ZestySieve;
beforeAll(async () => {
  await server.start();
  client = new ZestySieve(server.address);
  await client.createCollection({ name: 'huts' });
  const documents = Array.from({ length: 2_500 }, (_, id) => ({ id, region: ['Low Tarn', 'Fell'][id % 2], bunks: id % 40 }));
  await client.insert('huts', documents);
});
afterAll(() => server.remove());

async function all<T>(rows: AsyncIterable<T>): Promise<T[]> {
  const found: T[] = [];
  for await (const row of rows) found.push(row);
  return found;
}
const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => 'answered',
    (error: unknown) => (error instanceof ZestySieveProblem ? error.problem : error),
  );

test('collections are made, and hold what is put into them', async () => {
  expect((await client.collections()).map(({ name, count }) => [name, count])).toEqual([['huts', 2_500]]);
  expect(await client.insert('huts', [{ id: 'one more', region: 'Fell', bunks: 99 }])).toMatchObject({ inserted: 1 });
  await client.call('DELETE', '/collections/huts/documents/one%20more');
});

test('a pipeline, a question in SQL and a plan are answered', async () => {
  const { documents, cost } = await client.query('from huts\nwhere @.bunks >= :least\ngroup all measure n = count()', { parameters: { least: 39 } });
  expect([documents, cost.documentsRead]).toEqual([[{ n: 62 }], 2_500]);
  expect((await client.sql('SELECT COUNT(*) AS n FROM huts WHERE bunks >= :least', { parameters: { least: 39 } })).documents).toEqual([{ n: 62 }]);
  expect((await client.plan('from huts\nlimit 3')).plan).toBeDefined();
}); // prettier-ignore

test('all rows come, a page at a time, in order, and each once', async () => {
  const rows = await all(client.rows('from huts\norder by @.id desc'));
  expect(rows.map(({ id }) => id)).toEqual(Array.from({ length: 2_500 }, (_, i) => 2_499 - i));
  expect(await all(client.rows('from huts\nwhere @.id < 0'))).toEqual([]);
  expect(await all(client.rows('from huts\nwhere @.id < 1000'))).toHaveLength(1_000);
  // Whoever has seen enough asks for no more.
  let pages = 0;
  const counting = new ZestySieve({ address: server.address, fetch: (...given) => (pages++, fetch(...given)) });
  for await (const row of counting.rows('from huts')) if (row.id === 3) break;
  expect(pages).toBe(1);
});

test('a file is loaded, packed too, and what was not taken is told', async () => {
  await client.createCollection({ name: 'loaded' });
  const lines = '{"id": 1}\n{"id": 2}\n{"id": 1}\n';
  expect(await client.load('loaded', lines, 'application/x-ndjson')).toMatchObject({ inserted: 2, rejectedCount: 1 });
  expect(await client.load('loaded', new Uint8Array(gzipSync('id,n\n7,1\n8,2\n')), 'text/csv', true)).toMatchObject({ inserted: 2 });
  expect(await all(client.rows('from loaded'))).toEqual([{ id: 1 }, { id: 2 }, { id: 7, n: 1 }, { id: 8, n: 2 }]);
});

test('what goes wrong is a problem with all that the server said of it', async () => {
  expect(await problemOf(client.query('from huts\nwhere @.bunks >'))).toMatchObject({ status: 422, diagnostics: [expect.objectContaining({ line: 2 })] });
  expect(await problemOf(client.query('from huts', { guards: { documentsRead: 10 } }))).toMatchObject({ status: 422, type: '/problems/guard-documents-read' });
  expect(await problemOf(client.call('GET', '/collections/none/shape'))).toMatchObject({ status: 404 });
  const error = await client.query('from none').catch((one: unknown) => one as ZestySieveProblem);
  expect(error).toBeInstanceOf(ZestySieveProblem);
  expect([(error as ZestySieveProblem).status, (error as ZestySieveProblem).message]).toEqual([422, expect.stringContaining('none')]);
  // What no server of ours has answered is told as well as it can be.
  const broken = new ZestySieve({ address: 'http://gone', fetch: () => Promise.resolve(new Response('<html>', { status: 502, statusText: 'Bad Gateway' })) });
  expect(await problemOf(broken.collections())).toEqual({ type: '/problems/unknown', title: 'Bad Gateway', status: 502 });
}); // prettier-ignore

test('a question that is no longer wanted is ended', async () => {
  const over = new AbortController();
  const asking = client.query('from huts\njoin huts as a on a.bunks == @.bunks\njoin huts as b on b.bunks == @.bunks\ngroup all measure n = count()', {}, { signal: over.signal }); // prettier-ignore
  setTimeout(() => over.abort(), 100);
  await expect(asking).rejects.toMatchObject({ name: 'AbortError' });
});

test('pipelines are saved and listed, and their publications asked with their parameters and keys, to the last page', async () => {
  await client.savePipeline('by_region', { pipeline: 'from huts\nwhere @.region == :region\norder by @.id\nselect @.id' });
  expect((await client.pipelines()).map(({ name }) => name)).toEqual(['by_region']);
  const put = (access: string) => client.call('PUT', '/publications/regions', { pipeline: 'by_region', parameters: [{ name: 'region', kind: 'text' }], maxRows: 100, access }); // prettier-ignore
  await put('open');
  const rows = await all(client.published('regions', { region: 'Low Tarn' }));
  expect(rows.map(({ id }) => id)).toEqual(Array.from({ length: 1_250 }, (_, i) => i * 2));
  expect(await problemOf(all(client.published('regions')))).toMatchObject({ status: 400, faults: [{ parameter: 'region' }] });
  await put('key');
  const { key } = await client.call<{ key: string }>('POST', '/publications/regions/keys', { name: 'test' });
  expect(await problemOf(all(client.published('regions', { region: 'Fell' })))).toMatchObject({ status: 401 });
  expect(await all(client.published('regions', { region: 'Fell' }, key))).toHaveLength(1_250);
});

test('another database is asked by its name', async () => {
  await client.call('POST', '/databases', { name: 'archive' });
  const archive = new ZestySieve({ address: `${server.address}/`, database: 'archive' });
  await archive.createCollection({ name: 'old' });
  await archive.insert('old', [{ id: 1 }]);
  expect((await archive.collections()).map(({ name }) => name)).toEqual(['old']);
  expect(await all(archive.rows('from old'))).toEqual([{ id: 1 }]);
  await archive.savePipeline('all_old', { pipeline: 'from old' });
  await archive.call('PUT', '/publications/old', { pipeline: 'all_old', parameters: [] });
  expect(await all(archive.published('old'))).toEqual([{ id: 1 }]);
  expect(await problemOf(all(client.published('old')))).toMatchObject({ status: 404 });
});

test('where a token is wanted it is sent, to publications too', async () => {
  const open = await new TestServer().start({ HOST: '0.0.0.0' });
  try {
    const { origin, searchParams } = new URL(open.address);
    const address = origin.replace('0.0.0.0', '127.0.0.1');
    expect(await problemOf(new ZestySieve(address).collections())).toMatchObject({ status: 401 });
    const known = new ZestySieve({ address, token: searchParams.get('token') ?? '' });
    await known.createCollection({ name: 'c' });
    await known.insert('c', [{ id: 1 }]);
    await known.savePipeline('all', { pipeline: 'from c' });
    await known.call('PUT', '/publications/all', { pipeline: 'all', parameters: [] });
    expect(await all(known.published('all'))).toEqual([{ id: 1 }]);
  } finally {
    await open.remove();
  }
});
