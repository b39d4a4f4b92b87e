import { gzipSync } from 'node:zlib';
import { TestServer } from './server.ts';

/** So many that they take a while to come into memory. */
const count = 60_000;
const server = new TestServer();
beforeAll(async () => {
  await server.start();
  await server.call('POST', '/collections', { name: 'stays' });
  const lines = Array.from({ length: count }, (_, i) => JSON.stringify({ id: `s${i}`, n: i % 7, note: `stay ${i} `.repeat(8) }));
  await server.call('POST', '/collections/stays/import', lines.join('\n'), { 'content-type': 'application/x-ndjson' });
  await server.call('POST', '/collections/stays/indexes', { keys: ['@.n'] });
  await server.call('POST', '/collections/stays/indexes', { keys: ['@.note'] });
});
afterAll(() => server.remove());

const rows = async (pipeline: string, more: object = {}) =>
  (await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline, pageSize: 1_000, ...more })).body.documents;

test('what is written while its collection is being loaded is found, by scan and by index', async () => {
  await server.kill('SIGTERM');
  await server.start();
  const first = rows('from stays\ngroup all measure n = count()');
  for (let i = 0; i < 12; i++) {
    expect((await server.call('POST', '/collections/stays/documents', { id: `new${i}`, n: 100 + i })).status).toBe(201);
    if (i % 4 === 0) expect((await server.call('DELETE', `/collections/stays/documents/s${i}`)).status).toBe(204);
    if (i % 4 === 1)
      expect(
        (await server.call('PATCH', `/collections/stays/documents/s${i}`, { n: 200 }, { 'content-type': 'application/merge-patch+json' }))
          .status,
      ).toBe(200);
  }
  expect((await server.call('DELETE', '/collections/stays/indexes/note')).status).toBe(204);
  await first;
  expect(await rows('from stays\ngroup all measure n = count()')).toEqual([{ n: count + 12 - 3 }]);
  for (const ways of ['full scan', 'index']) {
    expect(await rows('from stays\nwhere @.n >= 100\norder by @.n\nselect @.n', { ways })).toEqual([
      ...Array.from({ length: 12 }, (_, i) => ({ n: 100 + i })),
      ...Array.from({ length: 3 }, () => ({ n: 200 })),
    ]);
  }
  const { indexes } = (await server.call<{ indexes: { name: string }[] }>('GET', '/collections/stays/indexes')).body;
  expect(indexes.map(({ name }) => name)).toEqual(['identity', 'n']);
  expect((await server.call('POST', '/collections/stays/check')).body).toMatchObject({ sound: true, documents: count + 9 });
});

test('a collection that is emptied while it is being loaded is empty', async () => {
  await server.call('POST', '/collections', { name: 'short' });
  const lines = Array.from({ length: count }, (_, id) => JSON.stringify({ id, note: `stay ${id} `.repeat(8) }));
  await server.call('POST', '/collections/short/import', lines.join('\n'), { 'content-type': 'application/x-ndjson' });
  await server.kill('SIGTERM');
  await server.start();
  const first = rows('from short\ngroup all measure n = count()');
  expect((await server.call('DELETE', '/collections/short/documents')).status).toBe(200);
  await first;
  expect(await rows('from short')).toEqual([]);
});

const gzip = { 'content-type': 'application/x-ndjson', 'content-encoding': 'gzip' };
const packed = gzipSync(Array.from({ length: 20_000 }, (_, id) => JSON.stringify({ id, r: Math.sin(id) })).join('\n'));
test.each([
  ['no gzip', Buffer.from('this is none')],
  ['half of one', packed.subarray(0, packed.length >> 1)],
  ['five million bytes of none', Buffer.alloc(5_000_000, 7)],
])('a file that is %s is refused, and holds nothing up', async (_, file) => {
  const answer = await server.call<{ detail: string }>('POST', '/collections/stays/import', new Uint8Array(file), gzip);
  expect([answer.status, answer.body.detail]).toEqual([
    400,
    expect.stringMatching(/^The gzip data is cut off or damaged: .*Nothing was stored\.$/),
  ]);
  expect((await server.call('POST', '/collections/stays/documents', { id: `after ${file.length}` })).status).toBe(201);
  expect((await server.call('GET', '/pipelines')).status).toBe(200);
});
