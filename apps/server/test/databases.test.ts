import { chmodSync, copyFileSync, existsSync, mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { DatabaseInfo } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

/** Several databases: made, named, filled, copied between, restored, removed; a damaged one hurts no other. */

const server = new TestServer();
const folder = join(server.folder, 'databases');
beforeAll(() => server.start());
afterAll(() => server.remove());

const list = async () => (await server.call<{ databases: DatabaseInfo[] }>('GET', '/databases')).body.databases;
const infoOf = async (name: string) => (await list()).find((one) => one.name === name);
const within = <T = Record<string, unknown>>(
  name: string,
  method: string,
  path: string,
  body?: unknown,
  headers: Record<string, string> = {},
) => server.call<T>(method, `/databases/${name}${path}`, body, headers);
const countIn = async (name: string, collection: string) =>
  (await within<{ documents: { n: number }[] }>(name, 'POST', '/query', { pipeline: `from ${collection}\ngroup all measure n = count()` })).body.documents?.[0]?.n; // prettier-ignore

test('the one that the server was started on is there, and every call is found below its name', async () => {
  expect(await list()).toMatchObject([{ name: 'test', isOpen: true, isDefault: true, damaged: null }]);
  await server.call('POST', '/collections', { name: 'stays' });
  await server.call(
    'POST',
    '/collections/stays/documents',
    Array.from({ length: 1_500 }, (_, id) => ({ id, n: id % 7 })),
  );
  await server.call('POST', '/collections/stays/indexes', { keys: ['@.n'] });
  expect(await countIn('test', 'stays')).toBe(1_500);
  expect((await within('nobody', 'GET', '/collections')).status).toBe(404);
});

test('another is made; what has the same name in both is two things', async () => {
  expect((await server.call('POST', '/databases', { name: 'archive' })).status).toBe(201);
  expect((await server.call('POST', '/databases', { name: 'archive' })).status).toBe(409);
  expect((await server.call('POST', '/databases', { name: 'no name' })).status).toBe(400);
  expect((await within('archive', 'POST', '/collections', { name: 'stays' })).status).toBe(201);
  await within('archive', 'POST', '/collections/stays/documents', [{ id: 1 }]);
  expect([await countIn('archive', 'stays'), await countIn('test', 'stays')]).toEqual([1, 1_500]);
  const saved = { pipeline: 'from stays\ngroup all measure n = count()' };
  for (const path of ['/databases/archive', '']) {
    await server.call('PUT', `${path}/pipelines/count`, saved);
    await server.call('PUT', `${path}/publications/count`, { pipeline: 'count', cache: { until: 'change' } });
  }
  const published = async (path: string) => (await server.call<{ documents: unknown[] }>('GET', `${path}/published/count`)).body.documents;
  expect([await published('/databases/archive'), await published('')]).toEqual([[{ n: 1 }], [{ n: 1_500 }]]);
});

test('a collection is copied with its indexes; a name that is taken there stops it', async () => {
  const copy = (body: object) => server.call('POST', '/databases/test/copy-collection', body);
  expect((await copy({ collection: 'stays', to: 'archive', as: 'earlier' })).body).toEqual({ collection: 'earlier', to: 'archive', documents: 1_500, indexes: 1 }); // prettier-ignore
  expect(await countIn('archive', 'earlier')).toBe(1_500);
  const { body } = await within<{ indexes: { keys?: string[] }[] }>('archive', 'GET', '/collections/earlier/indexes');
  expect(body.indexes.map(({ keys }) => keys)).toContainEqual(['@.n']);
  expect((await copy({ collection: 'stays', to: 'archive', as: 'earlier' })).status).toBe(409);
  expect(await countIn('archive', 'earlier')).toBe(1_500);
  const told = await server.call<string>('POST', '/databases/test/copy-collection', { collection: 'stays', to: 'archive', as: 'again' }, { accept: 'text/event-stream' }); // prettier-ignore
  expect(told.body).toMatch(
    /event: progress\ndata: {"documents":\d+,"of":1500}\n\n(event: progress.*\n.*\n\n)*event: done\ndata: {"collection":"again"/,
  );
  expect(await countIn('archive', 'again')).toBe(1_500);
  await within('archive', 'DELETE', '/collections/again');
  expect((await copy({ collection: 'stays', to: 'test' })).status).toBe(400);
});

test('renamed while others have it open it is there under its new name, and what is in it too', async () => {
  const window = await fetch(`${server.address}/api/databases/archive/events`);
  expect((await server.call('PATCH', '/databases/archive', { name: 'attic' })).status).toBe(200);
  void window.body?.cancel().catch(() => undefined);
  // Whoever knows it by its old name is told the new one, until another has that name.
  expect(await within('archive', 'GET', '/collections')).toMatchObject({ status: 404, body: { calledNow: 'attic' } });
  expect(await countIn('attic', 'earlier')).toBe(1_500);
  expect(readdirSync(folder).filter((name) => name.endsWith('.db'))).toEqual(['attic.db']);
  // The one that was named at the start keeps its file, and is the default one still.
  expect((await server.call('PATCH', '/databases/test', { name: 'main' })).body).toMatchObject({ name: 'main', isDefault: true });
  expect((await server.call('PATCH', '/databases/main', { name: 'attic' })).status).toBe(409);
  await server.kill();
  await server.start();
  expect((await list()).map(({ name, isDefault }) => [name, isDefault])).toEqual([['main', true], ['attic', false]]); // prettier-ignore
  expect(await countIn('main', 'stays')).toBe(1_500);
});

test('a backup is restored once it has been checked; what was there is kept', async () => {
  const backup = new Uint8Array(await (await fetch(`${server.address}/api/databases/attic/backup`)).arrayBuffer());
  await within('attic', 'DELETE', '/collections/earlier');
  const sent = { 'content-type': 'application/vnd.sqlite3' };
  for (const wrong of ['nothing of a database', backup.slice(0, backup.length / 2)])
    expect((await within('attic', 'POST', '/restore', wrong, sent)).status).toBe(400);
  expect(await countIn('attic', 'earlier')).toBeUndefined();
  const restored = await within<{ before: string }>('attic', 'POST', '/restore', backup, sent);
  expect(restored.status).toBe(200);
  expect(await countIn('attic', 'earlier')).toBe(1_500);
  // What was there is a database of its own now.
  const kept = (await within<{ collections: { name: string }[] }>(restored.body.before, 'GET', '/collections')).body.collections;
  expect(kept.map(({ name }) => name)).toEqual(['stays']);
  // The default one is restored while it is open.
  const own = new Uint8Array(await (await fetch(`${server.address}/api/backup`)).arrayBuffer());
  await server.call('DELETE', '/collections/stays/documents');
  expect((await within('main', 'POST', '/restore', own, sent)).status).toBe(200);
  expect(await countIn('main', 'stays')).toBe(1_500);
  expect((await server.call('POST', '/query', { pipeline: 'from stays\nlimit 1' })).status).toBe(200);
}, 60_000);

test('what is acknowledged while a database is renamed or restored beside it is in one of the files that there are', async () => {
  await server.call('POST', '/databases', { name: 'busy' });
  await within('busy', 'POST', '/collections', { name: 'c' });
  const backup = new Uint8Array(await (await fetch(`${server.address}/api/databases/busy/backup`)).arrayBuffer());
  const acknowledged: number[] = [];
  let isOver = false;
  let next = 0;
  const writer = async (name: string) => {
    while (!isOver) {
      const id = next++;
      const told = await within(name, 'POST', '/collections/c/documents', [{ id }]).catch(() => ({ status: 0 }));
      if (told.status === 201) acknowledged.push(id);
    }
  };
  const writers = ['busy', 'busy', 'moved', 'moved'].map(writer);
  for (const [from, to] of [
    ['busy', 'moved'],
    ['moved', 'busy'],
    ['busy', 'moved'],
  ] as const)
    expect((await server.call('PATCH', `/databases/${from}`, { name: to })).status).toBe(200);
  const { status, body } = await within<{ before: string }>('moved', 'POST', '/restore', backup, {
    'content-type': 'application/vnd.sqlite3',
  });
  expect(status).toBe(200);
  isOver = true;
  await Promise.all(writers);
  const found = new Set<number>();
  for (const name of ['moved', body.before]) {
    const page = await within<{ documents: { id: number }[] }>(name, 'POST', '/query', { pipeline: 'from c', pageSize: 1_000 });
    for (const { id } of page.body.documents) found.add(id);
  }
  expect(acknowledged.length).toBeGreaterThan(3);
  expect(acknowledged.filter((id) => !found.has(id))).toEqual([]);
}, 90_000);

test('what is no database, or of a later version, is listed as such and hurts no other; files put in appear', async () => {
  writeFileSync(join(folder, 'broken.db'), 'this is no database at all, and never was');
  copyFileSync(join(folder, 'attic.db'), join(folder, 'cut.db'));
  writeFileSync(join(folder, 'cut.db'), Buffer.alloc(4_096, 'SQLite format 3\0'));
  expect((await infoOf('broken'))?.damaged).toContain('no database');
  for (const name of ['broken', 'cut']) {
    const { status, body } = await within(name, 'GET', '/collections');
    expect([name, status, body.type]).toEqual([name, 503, '/problems/damaged']);
  }
  expect((await infoOf('cut'))?.damaged).not.toBeNull();
  expect(await countIn('main', 'stays')).toBe(1_500);
});

test('one is removed by its name said twice; the default one is not', async () => {
  expect((await server.call('DELETE', '/databases/attic')).status).toBe(400);
  expect((await server.call('DELETE', '/databases/attic?name=attic')).status).toBe(204);
  expect(existsSync(join(folder, 'attic.db'))).toBe(false);
  expect((await server.call('DELETE', '/databases/main?name=main')).status).toBe(409);
});

test('a folder that cannot be written is told', async () => {
  const other = new TestServer();
  const place = join(other.folder, 'a-file');
  mkdirSync(other.folder, { recursive: true });
  writeFileSync(place, 'no folder');
  chmodSync(place, 0o400);
  await other.start({ ZESTY_SIEVE_DATABASES: place });
  const { status, body } = await other.call('POST', '/databases', { name: 'more' });
  expect([status, body.type]).toEqual([507, '/problems/folder']);
  expect((await other.call('GET', '/collections')).status).toBe(200);
  await other.remove();
});
