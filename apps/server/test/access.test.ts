import { request } from 'node:http';
import { statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { TestServer } from './server.ts';

const server = new TestServer();
beforeAll(async () => {
  await server.start();
  await server.call('POST', '/collections', { name: 'c' });
});
afterAll(() => server.remove());

/** Sent as it is: fetch decides on some headers itself. */
const ask = (address: string, path: string, headers: Record<string, string> = {}, method = 'GET', body?: string) =>
  new Promise<{ status: number; headers: Record<string, unknown>; body: string }>((resolve, reject) => {
    const sending = request(new URL(path, address), { method, headers }, (response) => {
      let text = '';
      response.on('data', (piece: Buffer) => (text += piece.toString()));
      response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body: text }));
    });
    sending.on('error', reject).end(body);
  });

const json = { 'content-type': 'application/json' };
const page = { 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
test.each<[string, string, Record<string, string>, number]>([
  ['a program', '/api/collections', {}, 200],
  ['the page itself', '/api/collections', { 'sec-fetch-site': 'same-origin' }, 200],
  ['an address that somebody typed', '/api/collections', { 'sec-fetch-site': 'none' }, 200],
  ['a picture on a page from elsewhere', '/api/backup', { 'sec-fetch-site': 'cross-site', 'sec-fetch-dest': 'image' }, 403],
  ['a page of another port', '/api/collections', { 'sec-fetch-site': 'same-site' }, 403],
  ['a link from elsewhere to the page', '/', { 'sec-fetch-site': 'cross-site', ...page }, 200],
  ['a link from elsewhere to the data', '/api/backup', { 'sec-fetch-site': 'cross-site', ...page }, 403],
  [
    'a frame in a page from elsewhere',
    '/',
    { 'sec-fetch-site': 'cross-site', 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'iframe' },
    403,
  ],
  ['another host’s name', '/api/collections', { host: 'evil.example' }, 403],
])('%s asks', async (_, path, headers, status) => {
  expect((await ask(server.address, path, headers)).status).toBe(status);
});

test('the same origin is the same scheme, host and port', async () => {
  const { port } = new URL(server.address);
  const from = async (origin: string) => (await ask(server.address, '/api/collections', { origin })).status;
  expect(await from(`http://127.0.0.1:${port}`)).toBe(200);
  expect(await from(`http://127.0.0.1:${Number(port) - 1}`)).toBe(403);
  expect(await from(`https://127.0.0.1:${port}`)).toBe(403);
  expect(await from(`http://localhost:${port}`)).toBe(403);
  expect(await from('null')).toBe(403);
});

test('a write says what its body is', async () => {
  const post = async (headers: Record<string, string>) =>
    (await ask(server.address, '/api/collections/c/documents', headers, 'POST', '{"n": 1}')).status;
  expect([await post(json), await post({}), await post({ 'content-type': 'text/plain' })]).toEqual([201, 415, 415]);
  const query = async (headers: Record<string, string>) =>
    (await ask(server.address, '/api/query', headers, 'POST', '{"pipeline": "from c"}')).status;
  expect([await query(json), await query({}), await query({ 'content-type': 'text/plain' })]).toEqual([200, 415, 415]);
});

test('browsers are told to run nothing from elsewhere', async () => {
  const { headers } = await ask(server.address, '/');
  expect(headers['content-security-policy']).toMatch(/default-src 'none';script-src 'self'.*frame-ancestors 'none'/);
  expect([headers['x-content-type-options'], headers['referrer-policy'], headers['x-frame-options']]).toEqual([
    'nosniff',
    'no-referrer',
    'SAMEORIGIN',
  ]);
});

test('files are their owner’s alone', () => {
  for (const part of ['', '-wal', '-shm', '.uploads'])
    expect([part, statSync(join(server.folder, `test.db${part}`)).mode & 0o077]).toEqual([part, 0]);
});

test('on an address that others can reach a token is wanted, the same at every start', async () => {
  const open = new TestServer();
  try {
    await open.start({ HOST: '0.0.0.0' });
    const { port, searchParams } = new URL(open.address);
    const token = searchParams.get('token') ?? '';
    expect(token).toHaveLength(32);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(open.said).toMatch(/Others can reach this address/);
    const here = `http://127.0.0.1:${port}`;
    const bare = await ask(here, '/api/collections');
    expect([bare.status, JSON.parse(bare.body), bare.headers['www-authenticate']]).toMatchObject([
      401,
      { type: '/problems/unauthorized' },
      'Bearer realm="Zesty Sieve"',
    ]);
    expect((await ask(here, '/api/collections', { authorization: `Bearer ${token}x` })).status).toBe(401);
    expect((await ask(here, '/api/collections', { authorization: `Bearer ${token}` })).status).toBe(200);
    const without = await ask(here, '/');
    expect([without.status, without.body]).toEqual([401, expect.stringContaining('A token is wanted') as string]);
    const led = await ask(here, `/bench?token=${token}`);
    const cookie = String(led.headers['set-cookie']);
    expect([led.status, led.headers.location]).toEqual([303, '/bench']);
    expect(cookie).toMatch(/HttpOnly; SameSite=Strict/);
    expect((await ask(here, '/api/collections', { cookie: cookie.split(';')[0] })).status).toBe(200);
    expect((await ask(here, '/api/collections', { authorization: `Bearer ${token}`, host: 'evil.example' })).status).toBe(403);
    expect(statSync(join(open.folder, 'test.db.token')).mode & 0o077).toBe(0);
    await open.kill('SIGTERM');
    await open.start({ HOST: '0.0.0.0' });
    expect(new URL(open.address).searchParams.get('token')).toBe(token);
  } finally {
    await open.remove();
  }
});

test('a spreadsheet gets no formulas, where it is asked to be guarded', async () => {
  await server.call('POST', '/collections', { name: 'sheet' });
  const cells = { id: 1, a: '=1+1', b: '+1', c: '-1', d: '@x', e: 'plain', f: -5 };
  await server.call('POST', '/collections/sheet/documents', [cells]);
  const csv = async (query: string) =>
    String((await server.call('GET', `/collections/sheet/export?format=csv${query}`)).body).split('\n')[1];
  expect(await csv('')).toBe('1,=1+1,+1,"-1",@x,plain,-5');
  expect(await csv('&formulas=guard')).toBe("1,'=1+1,'+1,'-1,'@x,plain,-5");
  const { runId } = (await server.call<{ runId: string }>('POST', '/query', { pipeline: 'from sheet\nselect @.a' })).body;
  expect((await server.call('GET', `/runs/${runId}/rows.csv?formulas=guard`)).body).toBe("a\n'=1+1\n");
});

test('a pattern of an expected form is matched in time, whatever it is', async () => {
  const expected = (pattern: string) => ({ mode: 'refuse', schema: { properties: { t: { type: 'string', pattern } } } });
  await server.call('POST', '/collections', { name: 'strict' });
  expect((await server.call('PUT', '/collections/strict/expected', expected('^(a|a)*$'))).status).toBe(200);
  const put = async (t: string) => (await server.call('POST', '/collections/strict/documents', { t })).status;
  expect([await put('a'.repeat(60)), await put(`${'a'.repeat(60)}b`)]).toEqual([201, 422]);
  const { status, body } = await server.call('PUT', '/collections/strict/expected', expected('(?=a)b'));
  expect([status, body.detail]).toEqual([400, expect.stringContaining('looks around or back') as string]);
});

test('a check looks through the file too, and mends what follows from the documents', async () => {
  const { Database } = await import('../src/storage/database.ts');
  await server.kill('SIGTERM');
  const database = await Database.open(join(server.folder, 'test.db'));
  await database.run("UPDATE collections SET count = 77, nextPosition = 0 WHERE name = 'sheet'");
  await database.close();
  await server.start();
  const { body } = await server.call<{ sound: boolean; file: object }>('POST', '/collections/sheet/check');
  expect(body.sound).toBe(true);
  expect(body.file).toEqual({
    sound: true,
    problems: [],
    mended: ['sheet was noted to have 77 documents, and has 1', 'the next place of sheet was noted as 0, and is 1'],
  });
  expect((await server.call('POST', '/collections/sheet/documents', { id: 2 })).status).toBe(201);
  expect((await server.call('GET', '/collections/sheet')).body).toMatchObject({ count: 2 });
});

test('the space of what is removed is given back', async () => {
  await server.call('POST', '/collections', { name: 'bulky' });
  const lines = Array.from({ length: 20_000 }, (_, id) => JSON.stringify({ id, text: 'words '.repeat(100) })).join('\n');
  writeFileSync(join(server.folder, 'lines'), lines);
  await server.call('POST', '/collections/bulky/import', lines, { 'content-type': 'application/x-ndjson' });
  await server.call('DELETE', '/collections/bulky');
  let size = Infinity;
  for (let i = 0; i < 40 && size > 2_000_000; i++) {
    await new Promise((resolve) => setTimeout(resolve, 250));
    // What is still in the journal is put into the file when the server stops, or it has grown.
    size = statSync(join(server.folder, 'test.db')).size;
  }
  await server.kill('SIGTERM');
  expect(statSync(join(server.folder, 'test.db')).size).toBeLessThan(2_000_000);
  await server.start();
});
