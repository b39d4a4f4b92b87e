import type { UnderWay } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

/** Long work is on one list, whoever asked for it, and is ended from there. */
const server = new TestServer();
beforeAll(async () => {
  await server.start();
  for (const name of ['huts', 'vectors']) await server.call('POST', '/collections', { name });
  const documents = Array.from({ length: 12_000 }, (_, id) => ({ id, vector: Array.from({ length: 64 }, (__, i) => Math.sin(id * 7.3 + i * i)) })); // prettier-ignore
  for (let at = 0; at < documents.length; at += 2_000)
    await server.call('POST', '/collections/vectors/documents', documents.slice(at, at + 2_000));
}, 60_000);
afterAll(() => server.remove());

const list = async () => (await server.call<{ work: UnderWay[] }>('GET', '/work')).body.work;
const listed = async (count: number): Promise<UnderWay[]> => {
  for (let times = 0; times < 200; times++) {
    const work = await list();
    if (work.length === count) return work;
    await new Promise((resolve) => setTimeout(resolve, 25));
  }
  throw new Error(`the list never had ${count}`);
};

test('nothing is under way at first, and nothing that is not can be ended', async () => {
  expect(await list()).toEqual([]);
  expect((await server.call('DELETE', '/work/nothing')).status).toBe(404);
});

test('an index that is built is listed with how far it has come, and is ended from there', async () => {
  const building = server.call('POST', '/collections/vectors/indexes', {
    kind: 'vector',
    keys: ['@.vector'],
    name: 'near',
    buildEffort: 400,
  });
  const [one] = await listed(1);
  expect(one).toMatchObject({ kind: 'index', of: 'vectors', detail: 'near', canBeCancelled: true });
  expect((await server.call('DELETE', `/work/${one!.id}`)).status).toBe(204);
  expect(await building).toMatchObject({ body: { type: '/problems/cancelled' } });
  expect(await listed(0)).toEqual([]);
  const { body } = await server.call<{ indexes: { name: string }[] }>('GET', '/collections/vectors/indexes');
  expect(body.indexes.map(({ name }) => name)).toEqual(['identity']);
});

test('a file that is loaded is listed while it comes in', async () => {
  let send: ReadableStreamDefaultController<Uint8Array> | undefined;
  const body = new ReadableStream<Uint8Array>({ start: (controller) => void (send = controller) });
  send!.enqueue(new TextEncoder().encode('{"id": 1}\n'));
  const loading = fetch(`${server.address}/api/collections/huts/import`, { method: 'POST', headers: { 'content-type': 'application/x-ndjson' }, body, duplex: 'half' } as RequestInit); // prettier-ignore
  expect(await listed(1)).toMatchObject([{ kind: 'load', of: 'huts', share: null }]);
  send!.close();
  expect((await loading).status).toBe(200);
  expect(await listed(0)).toEqual([]);
});

test('what fails is not left on the list', async () => {
  const { status } = await server.call('POST', '/collections/vectors/indexes', { keys: ['@.vector['], name: 'wrong' });
  expect(status).toBeGreaterThanOrEqual(400);
  expect(await list()).toEqual([]);
});

test('a change that is to end when it has been made is told as made; its asker knows it by a name of its own', async () => {
  await server.call('POST', '/collections', { name: 'many' });
  const lines = Array.from({ length: 40_000 }, (_, id) => JSON.stringify({ id, n: 0 })).join('\n');
  await server.call('POST', '/collections/many/import', lines, { 'content-type': 'application/x-ndjson' });
  const made = async () => (await server.call<{ documents: { n: number }[] }>('POST', '/query', { pipeline: 'from many\ngroup all measure n = max(@.n)' })).body.documents[0]!.n; // prettier-ignore
  const told = new Set<string>();
  for (let n = 1; told.size < 2 && n < 22; n++) {
    const before = await made();
    const making = server.call('POST', '/changes', { change: `from many\nset @.n = ${n}`, track: `change-${n}` });
    let isOver = false;
    void making.finally(() => (isOver = true));
    // Later from time to time, until one comes too late.
    await new Promise((resolve) => setTimeout(resolve, 20 * 1.35 ** n));
    const ended = isOver ? 404 : (await server.call('DELETE', `/work/change-${n}`)).status;
    const { status, body } = await making;
    expect([204, 404]).toContain(ended);
    if (status === 200) expect(await made()).toBe(n);
    else {
      expect(body).toMatchObject({ type: '/problems/cancelled', detail: 'The change was cancelled. Nothing was changed.' });
      expect(await made()).toBe(before);
    }
    told.add(status === 200 ? 'made' : 'cancelled');
  }
  expect([...told].sort()).toEqual(['cancelled', 'made']);
}, 120_000);
