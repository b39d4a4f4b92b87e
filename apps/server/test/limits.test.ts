import { request } from 'node:http';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'huts' });
  await server.call(
    'POST',
    '/collections/huts/documents',
    Array.from({ length: 2_000 }, (_, id) => ({ id, n: id % 7 })),
  );
});
afterAll(() => server.remove());

const nested = (depth: number): string => '['.repeat(depth) + ']'.repeat(depth);
const json = { 'content-type': 'application/json' };
const store = (body: string) => server.call<{ type: string; detail?: string }>('POST', '/collections/huts/documents', body, json);
/** The same by a client that reads an answer though it has not come to the end of its sending. */
const statusOf = (body: string) =>
  new Promise<number | undefined>((resolve, reject) => {
    const sending = request(`${server.address}/api/collections/huts/documents`, { method: 'POST', headers: json }, (response) => {
      resolve(response.statusCode);
      sending.destroy();
    });
    sending.on('error', reject).end(body);
  });
const query = (body: object) => server.call<Record<string, unknown>>('POST', '/query', body);
const counted = async () => (await query({ pipeline: 'from huts\ngroup all measure n = count()' })).body.documents;

test.each<[string, string, number]>([
  ['a letter', 'a', 201],
  ['letters, digits, _ and -', 'Big-huts_2', 201],
  ['64 of them', 'x'.repeat(64), 201],
  ['65', 'x'.repeat(65), 400],
  ['a digit first', '2huts', 400],
  ['a space', 'big huts', 400],
  ['nothing', '', 400],
  ['letters of other alphabets', 'hütte', 400],
  ['a name that is taken', 'huts', 409],
])('a collection is called by %s: %d', async (_, name, status) => {
  const answer = await server.call<{ detail?: string; title?: string }>('POST', '/collections', { name });
  expect(answer.status).toBe(status);
  if (status !== 201) expect(`${answer.body.title} ${answer.body.detail}`.length).toBeGreaterThan(20);
});

test('documents are as deep as 500 levels, and no deeper', async () => {
  // The document itself is a level.
  expect((await store(`{"id": "deep", "list": ${nested(499)}}`)).status).toBe(201);
  const deeper = await store(`{"id": "deeper", "list": ${nested(500)}}`);
  expect(deeper.status).toBe(422);
  expect(deeper.body.detail ?? '').toMatch(/500/);
  // Not even so deep that reading it would end the thread.
  expect((await store(`{"id": "deepest", "list": ${nested(200_000)}}`)).status).toBeGreaterThanOrEqual(400);
  expect((await server.call('GET', '/collections/huts/documents/deep')).status).toBe(200);
  expect((await server.call('DELETE', '/collections/huts/documents/deep')).status).toBe(204);
});

test('a document is as large as 16 MB, and no larger; a body as 64 MB', async () => {
  const text = (megabytes: number) => 'x'.repeat(megabytes * 1024 * 1024);
  expect((await store(`{"id": "large", "text": "${text(15)}"}`)).status).toBe(201);
  const larger = await store(`{"id": "larger", "text": "${text(17)}"}`);
  expect([larger.status, larger.body.detail ?? '']).toEqual([422, expect.stringMatching(/16/)]);
  expect(await statusOf(`[{"id": "largest", "text": "${text(65)}"}]`)).toBe(413);
  expect((await server.call('DELETE', '/collections/huts/documents/large')).status).toBe(204);
  expect(await counted()).toEqual([{ n: 2_000 }]);
});

test.each<[string, string, number]>([
  ['7 is "7"', '{"id": "7"}', 409],
  ['"a" is new', '{"id": "a", "n": 1}', 201],
  ['"a" is "a"', '{"id": "a", "n": 2}', 409],
  ['70000.5 is a number', '{"id": 70000.5}', 201],
  ['null', '{"id": null}', 422],
  ['a list', '{"id": [1]}', 422],
  ['an object', '{"id": {}}', 422],
  ['true', '{"id": true}', 422],
])('identities are texts and numbers by their text: %s', async (_, body, status) => expect((await store(body)).status).toBe(status));

describe('pages', () => {
  test('are of 40 unless it is said, and of 1,000 at most', async () => {
    expect((await query({ pipeline: 'from huts' })).body.documents).toHaveLength(40);
    expect((await query({ pipeline: 'from huts', pageSize: 1_000 })).body.documents).toHaveLength(1_000);
    expect((await query({ pipeline: 'from huts', pageSize: 0 })).body).toMatchObject({ documents: [], hasMore: true });
    expect((await query({ pipeline: 'from huts', pageSize: 1_001 })).status).toBe(400);
    expect((await query({ pipeline: 'from huts', pageSize: -1 })).status).toBe(400);
  });

  test('follow each other without a gap, and the rows of a run stay what they were', async () => {
    const { runId } = (await query({ pipeline: 'from huts\nwhere @.id < 100\norder by @.n, @.id desc' })).body;
    await server.call('PUT', '/collections/huts/documents/3', { id: 3, n: 0 });
    const ids: number[] = [];
    for (let offset = 0; ; offset += 30) {
      const { body } = await server.call<{ documents: { id: number; n: number }[]; hasMore: boolean }>(
        'GET',
        `/runs/${String(runId)}/rows?offset=${offset}&size=30`,
      );
      ids.push(...body.documents.map(({ id }) => id));
      if (!body.hasMore) break;
    }
    const expected = Array.from({ length: 100 }, (_, id) => id).sort((a, b) => (a % 7) - (b % 7) || b - a);
    expect(ids).toEqual(expected);
    await server.call('PUT', '/collections/huts/documents/3', { id: 3, n: 3 });
  });
});

describe('guards', () => {
  const asked = (guards: object) => query({ pipeline: 'from huts\nwhere @.n == 3', guards });
  test('on documents: reaching it passes, one less does not', async () => {
    const { documentsRead } = (await asked({})).body.cost as { documentsRead: number };
    expect((await asked({ documentsRead })).status).toBe(200);
    expect((await asked({ documentsRead: documentsRead - 1 })).body).toMatchObject({
      status: 422,
      type: '/problems/guard-documents-read',
      line: 1,
      limit: documentsRead - 1,
      reached: documentsRead - 1,
      suggestions: expect.any(Array) as unknown[],
    });
  });
  test('partners count', async () => {
    const both = (documentsRead: number) =>
      query({ pipeline: 'from huts\nlimit 5\njoin huts as other on other.n == @.n', guards: { documentsRead }, pageSize: 0 });
    const { cost } = (await both(1_000_000)).body as { cost: { documentsRead: number } };
    expect(cost.documentsRead).toBeGreaterThan(2_000);
    expect((await both(cost.documentsRead)).status).toBe(200);
    expect((await both(cost.documentsRead - 1)).status).toBe(422);
  });
  test.each([{ timeMs: -1 }, { memoryBytes: 'much' }, { documentsRead: 1.5 }, { unknown: 1 }])('%j is none', async (guards) => {
    expect((await asked(guards)).status).toBe(400);
  });
});

test.each<[string, object, number, string]>([
  ['an unknown collection', { pipeline: 'from hats' }, 422, '/problems/pipeline'],
  ['a parameter without a value', { pipeline: 'from huts\nwhere @.n == :n' }, 422, '/problems/pipeline'],
  ['a text that is no pipeline', { pipeline: 'select everything' }, 422, '/problems/pipeline'],
  ['nothing', { pipeline: '' }, 422, '/problems/pipeline'],
  ['no pipeline', {}, 400, '/problems/request'],
  ['a word that is not known', { pipeline: 'from huts', pagesize: 3 }, 400, '/problems/request'],
])('%s is told as Problem Details', async (_, body, status, type) => {
  const answer = await query(body);
  expect([answer.status, answer.body.type, answer.body.status]).toEqual([status, type, status]);
  expect(answer.headers.get('content-type')).toMatch(/^application\/problem\+json/);
  expect(String(answer.body.detail ?? answer.body.title).length).toBeGreaterThan(10);
  if (type.endsWith('pipeline')) {
    for (const { from, to, line, message } of answer.body.diagnostics as { from: number; to: number; line: number; message: string }[]) {
      expect(from).toBeLessThanOrEqual(to);
      expect(line).toBeGreaterThanOrEqual(1);
      expect(message.length).toBeGreaterThan(10);
    }
    expect(answer.body.diagnostics).not.toEqual([]);
  }
});

test('a question whose asker has gone is ended, and others are answered', async () => {
  const gone = new AbortController();
  const slow = 'from huts\njoin huts as a on a.n != @.n\njoin huts as b on b.n != @.n\ngroup all measure n = count()';
  const body = JSON.stringify({ pipeline: slow, guards: { timeMs: 60_000, documentsRead: 1e12, memoryBytes: 1e12 } });
  const asked = fetch(`${server.address}/api/query`, { method: 'POST', headers: json, body, signal: gone.signal });
  await new Promise((resolve) => setTimeout(resolve, 300));
  const meanwhile = await query({ pipeline: 'from huts\nwhere @.id == 5' });
  expect(meanwhile.body.rowsReturned).toBe(1);
  gone.abort();
  await expect(asked).rejects.toThrow();
  // A change of the collection waits for all who read it.
  const started = performance.now();
  expect((await server.call('PUT', '/collections/huts/documents/5', { id: 5, n: 5 })).status).toBe(200);
  expect(performance.now() - started).toBeLessThan(20_000);
});

test.each([
  [{ useIndex: 'nn' }, 404, '/not-found', 'There is no index nn on huts. There is identity.'],
  [{ ignoreIndexes: ['identiti'] }, 404, '/not-found', 'There is no index identiti on huts. Did you mean identity? There is identity.'],
  [{ ways: 'union' }, 422, '/way', 'There is no way to these documents by union. Leave it open, or ask otherwise.'],
  [{ ways: 'magic' }, 400, '/request', ''],
])('what is insisted on and cannot be is told: %j', async (more, status, type, detail) => {
  const answer = await query({ pipeline: 'from huts\nwhere @.n == 3', ...more });
  expect(answer).toMatchObject({ status, body: { type: expect.stringMatching(`${type}$`) as string } });
  if (detail !== '') expect(answer.body.detail).toBe(detail);
});

test('a join of each with each ends at its guard, long before the memory does', async () => {
  const answer = await query({ pipeline: 'from huts\njoin huts as other on other.id != @.id', pageSize: 1 });
  expect(answer.body).toMatchObject({ type: expect.stringMatching('/guard-memory$') as string, line: 2 });
  expect(answer.body.reached).toBeLessThan(50 * 1024 * 1024);
});

test('a pattern that goes back far is matched in time; one of an array on two elements is advised on', async () => {
  await server.call('POST', '/collections/huts/documents', { id: 'long', t: 'a'.repeat(60), parts: [{ f: 2, g: 2 }], b: 1 });
  const far = await query({ pipeline: `from huts\nwhere match(@.t, "${'(a|a)'.repeat(35)}b")`, guards: { timeMs: 2_000 } });
  expect(far).toMatchObject({ status: 200, body: { rowsReturned: 0 } });
  const advised = await query({ pipeline: 'from huts\nwhere @.parts[?@.f == 2 && @.g == 2]\ngroup all measure m0 = max(@.b)' });
  expect(advised).toMatchObject({ status: 200, body: { documents: [{ m0: 1 }] } });
});
