import { gzipSync } from 'node:zlib';
import { collectionList, indexList, planResult, problem, queryResult, shape } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
});
afterAll(() => server.remove());

let made = 0;
async function collection(documents?: unknown[], identity?: string): Promise<string> {
  const name = `c${++made}`;
  await server.call('POST', '/collections', { name, ...(identity && { identity }) });
  if (documents) await server.call('POST', `/collections/${name}/documents`, documents);
  return name;
}
const ndjson = { 'content-type': 'application/x-ndjson' };
const exported = async (name: string, format = 'ndjson') =>
  (await server.call<string>('GET', `/collections/${name}/export?format=${format}`)).body;

describe('collections and documents', () => {
  test('are made, listed, described and removed', async () => {
    const name = await collection([{ id: 1 }, { id: 'a' }]);
    expect((await server.call('POST', '/collections', { name })).status).toBe(409);
    expect((await server.call('POST', '/collections', { name: '1x' })).status).toBe(400);
    const list = collectionList.parse((await server.call('GET', '/collections')).body);
    expect(list.collections).toContainEqual({ name, identity: '@.id', count: 2, bytes: 18, scratch: false, indexKinds: [] });
    expect((await server.call('DELETE', `/collections/${name}`)).status).toBe(204);
    expect((await server.call('GET', `/collections/${name}`)).status).toBe(404);
  });

  test('text comes back as it went in, and a document without an identity is given one', async () => {
    const name = await collection();
    const text = '{"id":7,  "n": 1.0, "big": 12345678901234567890, "é": "\\u00e9"}';
    await server.call('POST', `/collections/${name}/documents`, `[${text}, {"x": 1}]`, { 'content-type': 'application/json' });
    const [first, second] = (await exported(name)).split('\n');
    expect(first).toBe(text);
    expect(second).toMatch(/^\{"id":"[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f-]+",.*"x": 1\}$/);
    expect((await server.call('GET', `/collections/${name}/documents/7`)).body).toMatchObject({ id: 7 });
  });

  test('an array of documents is stored wholly or not at all', async () => {
    const name = await collection([{ id: 1 }]);
    const answer = await server.call('POST', `/collections/${name}/documents`, [{ id: 2 }, { id: '1' }]);
    expect(answer).toMatchObject({ status: 409, body: { type: '/problems/duplicate-identity', identity: '1' } });
    expect(await exported(name)).toBe('{"id":1}\n');
    expect((await server.call('POST', `/collections/${name}/documents`, '[{"id": 3}', { 'content-type': 'application/json' })).status).toBe(
      400,
    );
    expect((await server.call('POST', `/collections/${name}/documents`, [{ id: 5 }, 6])).status).toBe(422);
  });

  test('one is replaced, patched and removed, guarded by its ETag', async () => {
    const name = await collection([{ id: 'a', n: 1, list: [1] }]);
    const at = `/collections/${name}/documents/a`;
    const etag = (await server.call('GET', at)).headers.get('etag') ?? '';
    const put = await server.call('PUT', at, { id: 'a', n: 2, list: [1] }, { 'if-match': etag });
    expect(put.status).toBe(200);
    expect((await server.call('PUT', at, { id: 'a', n: 3 }, { 'if-match': etag })).status).toBe(412);
    const patched = await server.call('PATCH', at, '[{"op":"add","path":"/list/-","value":2},{"op":"replace","path":"/n","value":9}]', {
      'content-type': 'application/json-patch+json',
    });
    expect(patched.body).toEqual({ id: 'a', n: 9, list: [1, 2] });
    const merged = await server.call('PATCH', at, '{"n": null, "m": {"k": 1}}', { 'content-type': 'application/merge-patch+json' });
    expect(merged.body).toEqual({ id: 'a', list: [1, 2], m: { k: 1 } });
    expect((await server.call('PATCH', at, '{"id": "b"}', { 'content-type': 'application/merge-patch+json' })).status).toBe(422);
    const found = await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline: `from ${name}\nwhere @.m.k == 1` });
    expect(found.body.documents).toHaveLength(1);
    expect((await server.call('DELETE', at)).status).toBe(204);
    expect((await server.call('GET', at)).status).toBe(404);
    expect((await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline: `from ${name}` })).body.rowsReturned).toBe(0);
  });

  test('many are read and replaced at once', async () => {
    const name = await collection([{ id: 1 }, { id: 2 }]);
    expect((await server.call('PUT', `/collections/${name}/documents`, [{ id: 2, x: 1 }, { id: 3 }])).body).toEqual({
      inserted: 1,
      replaced: 1,
    });
    const read = await server.call('POST', `/collections/${name}/documents/read`, { identities: [3, '2', 9] });
    expect(read.body).toEqual({ documents: [{ id: 3 }, { id: 2, x: 1 }], missing: ['9'] });
  });
});

describe('import', () => {
  test('NDJSON, with rejected lines by number and warnings', async () => {
    const name = await collection();
    const lines = ['{"id":1,"n":12345678901234567890}', '', '{"id":2', '[1]', '{"id":1}', '{"id":3,"k":1,"k":2}', '{"id":[]}'];
    const { body } = await server.call('POST', `/collections/${name}/import`, lines.join('\n'), ndjson);
    expect(body).toMatchObject({ inserted: 2, skipped: 0, replaced: 0, rejectedCount: 4 });
    expect((body.rejected as { line: number }[]).map(({ line }) => line)).toEqual([3, 4, 5, 7]);
    expect(body.warnings).toMatchObject([
      { line: 1, path: "$['n']" },
      { line: 6, path: "$['k']" },
    ]);
  });

  test.each(['skip', 'replace'] as const)('a taken identity, when duplicates %s', async (onDuplicate) => {
    const name = await collection([{ id: 1, v: 'old' }]);
    const { body } = await server.call(
      'POST',
      `/collections/${name}/import?onDuplicate=${onDuplicate}`,
      '{"id":0}\n{"id":1,"v":"new"}\n',
      ndjson,
    );
    expect(body).toMatchObject({ inserted: 1, rejected: [], [onDuplicate === 'skip' ? 'skipped' : 'replaced']: 1 });
    const { documents } = (await server.call<{ documents: { v?: string }[] }>('POST', '/query', { pipeline: `from ${name}` })).body;
    expect(documents[0].v).toBe(onDuplicate === 'skip' ? 'old' : 'new');
  });

  test('a JSON array, its elements with the lines on which they begin; cut off, it stores nothing', async () => {
    const name = await collection();
    const json = { 'content-type': 'application/json' };
    const { body } = await server.call('POST', `/collections/${name}/import`, '[\n {"id": 1, "t": "]},{\\""},\n 5,\n {"id": 2}\n]\n', json);
    expect(body).toMatchObject({ inserted: 2, rejected: [{ line: 3 }] });
    expect((await server.call('POST', `/collections/${name}/import`, '[{"id": 3}, {"id": 4', json)).status).toBe(400);
    expect(await exported(name)).toBe('{"id": 1, "t": "]},{\\""}\n{"id": 2}\n');
  });

  test('CSV, typed, with missing and empty cells; and gzip, whole or cut off', async () => {
    const name = await collection();
    const csv = 'id,n,flag,text,a.b\n1,2.5,true,"",x\n2,,false,"a ""q"", \n b",\n3,007,,"7",y\n';
    await server.call('POST', `/collections/${name}/import`, csv, { 'content-type': 'text/csv' });
    expect(
      (await exported(name))
        .trim()
        .split('\n')
        .map((line) => JSON.parse(line) as unknown),
    ).toEqual([
      { id: 1, n: 2.5, flag: true, text: '', a: { b: 'x' } },
      { id: 2, flag: false, text: 'a "q", \n b' },
      { id: 3, n: '007', text: '7', a: { b: 'y' } },
    ]);
    const again = await collection();
    const text = await exported(name, 'csv');
    const zipped = gzipSync(text);
    const cut = await server.call('POST', `/collections/${again}/import`, zipped.subarray(0, zipped.length - 9), {
      'content-type': 'text/csv',
      'content-encoding': 'gzip',
    });
    expect(cut.status).toBe(400);
    expect(await exported(again)).toBe('');
    expect(
      (await server.call('POST', `/collections/${again}/import`, zipped, { 'content-type': 'text/csv', 'content-encoding': 'gzip' })).body,
    ).toMatchObject({ inserted: 3 });
    expect(await exported(again, 'csv')).toBe(text);
  });

  test('progress as server-sent events, ending with the answer', async () => {
    const name = await collection();
    const lines = Array.from({ length: 30_000 }, (_, i) => JSON.stringify({ id: i, text: 'x'.repeat(60) })).join('\n');
    const { body } = await server.call<string>('POST', `/collections/${name}/import`, lines, { ...ndjson, accept: 'text/event-stream' });
    expect(body).toMatch(/^event: progress\n/);
    const done = /event: done\ndata: (.*)\n\n$/.exec(body);
    expect(JSON.parse(done?.[1] ?? 'null')).toMatchObject({ inserted: 30_000 });
  });
});

describe('questions', () => {
  const documents = Array.from({ length: 3_000 }, (_, i) => ({ id: `d${i}`, n: i % 100, kind: i % 2 ? 'odd' : 'even' }));

  test('answers and plans have the forms of the contract', async () => {
    const name = await collection(documents);
    const pipeline = `from ${name}\nwhere @.n == 5\norder by @.kind desc\nlimit 3`;
    const asked = queryResult.parse((await server.call('POST', '/query', { pipeline })).body);
    expect(asked).toMatchObject({
      rowsReturned: 3,
      cost: { documentsRead: 3_000 },
      lines: [{ line: 1, rowsOut: 3_000 }, { line: 2, rowsOut: 30 }, { line: 3 }, { line: 4, rowsOut: 3 }],
    });
    const built = await server.call('POST', `/collections/${name}/indexes`, { keys: ['@.n', '@.kind desc'] });
    expect(built).toMatchObject({ status: 201, body: { name: 'n_kind_desc', entries: 3_000 } });
    const again = queryResult.parse((await server.call('POST', '/query', { pipeline })).body);
    expect(again.documents).toEqual(asked.documents);
    expect(again.cost.documentsRead).toBe(3);
    const planned = planResult.parse(
      (await server.call('POST', '/plan', { pipeline, ignoreIndexes: ['n_kind_desc'], whatIf: [{ keys: ['@.n'] }] })).body,
    );
    expect(planned.weighed.find(({ chosen }) => chosen)).toMatchObject({ whatIf: true });
    shape.parse((await server.call('GET', `/collections/${name}/shape`)).body);
    indexList.parse((await server.call('GET', `/collections/${name}/indexes`)).body);
    expect((await server.call('DELETE', `/collections/${name}/indexes/n_kind_desc`)).status).toBe(204);
    expect((await server.call('DELETE', `/collections/${name}/indexes/identity`)).status).toBe(404);
  });

  test('the rows of a run are paged and streamed without running again', async () => {
    const name = await collection(documents);
    const { body } = await server.call<{ runId: string; hasMore: boolean }>('POST', '/query', {
      pipeline: `from ${name}\nselect @.id, @.n`,
      pageSize: 2,
    });
    const page = await server.call<{ documents: { id: string }[]; hasMore: boolean }>(
      'GET',
      `/runs/${body.runId}/rows?offset=2998&size=10`,
    );
    expect(page.body).toMatchObject({ hasMore: false, documents: [{ id: 'd2998' }, { id: 'd2999' }] });
    expect((await server.call<string>('GET', `/runs/${body.runId}/rows.ndjson`)).body.split('\n')).toHaveLength(3_001);
    expect((await server.call<unknown[]>('GET', `/runs/${body.runId}/rows.json`)).body).toHaveLength(3_000);
    expect((await server.call<string>('GET', `/runs/${body.runId}/rows.csv`)).body).toMatch(/^id,n\nd0,0\n/);
    expect((await server.call('GET', '/runs/none/rows')).status).toBe(410);
  });

  test('what is wrong is told as Problem Details with spans', async () => {
    const name = await collection(documents);
    const wrong = await server.call('POST', '/query', { pipeline: `from ${name}\nwhere @.n = 1` });
    expect(wrong).toMatchObject({
      status: 422,
      body: { type: '/problems/pipeline', diagnostics: [{ line: 2, code: 'single-equals', mend: { edits: [{ insert: '==' }] } }] },
    });
    expect(wrong.headers.get('content-type')).toContain('application/problem+json');
    problem.parse(wrong.body);
    for (const pipeline of ['', 'from nowhere', `from ${name}\nwhere @.n == :p`, `from ${name}\nlimit -1`, '\u0000']) {
      expect(await server.call('POST', '/query', { pipeline })).toMatchObject({ status: 422, body: { type: '/problems/pipeline' } });
    }
    const guarded = await server.call('POST', '/query', { pipeline: `from ${name}\norder by @.n`, guards: { memoryBytes: 10_000 } });
    expect(guarded).toMatchObject({
      status: 422,
      body: { type: '/problems/guard-memory', line: 2, limit: 10_000, suggestions: [{ keys: ['@.n'] }] },
    });
    expect((await server.call('POST', '/query', { nothing: 1 })).status).toBe(400);
  });

  test('parse warns by the shape and prints the canonical text', async () => {
    const name = await collection(documents);
    const { body } = await server.call<{ diagnostics: { code: string }[]; canonical: string }>('POST', '/parse', {
      pipeline: `from ${name}\nwhere   @.knid=="odd"`,
    });
    expect(body.diagnostics).toMatchObject([{ code: 'unknown-field', mend: { edits: [{ insert: 'kind' }] } }]);
    expect(body.canonical).toBe(`from ${name}\nwhere @.knid == "odd"`);
  });

  test('an index is exact under writes, and a unique one refuses what repeats', async () => {
    const name = await collection([
      { id: 1, k: 'a' },
      { id: 2, k: 'b' },
    ]);
    await server.call('POST', `/collections/${name}/indexes`, { keys: ['@.k'], unique: true });
    expect(await server.call('POST', `/collections/${name}/documents`, { id: 3, k: 'a' })).toMatchObject({
      status: 422,
      body: { type: '/problems/unique', values: ['a'] },
    });
    expect(await server.call('PUT', `/collections/${name}/documents/2`, { id: 2, k: 'a' })).toMatchObject({ status: 422 });
    const { body } = await server.call('POST', `/collections/${name}/import`, '{"id":4,"k":"c"}\n{"id":5,"k":"c"}\n{"id":6}\n', ndjson);
    expect(body).toMatchObject({ inserted: 2, rejected: [{ line: 2 }] });
    await server.call('PUT', `/collections/${name}/documents/1`, { id: 1, k: 'z' });
    const found = await server.call<{ documents: { id: number }[] }>('POST', '/query', {
      pipeline: `from ${name}\norder by @.k`,
      useIndex: 'k',
    });
    expect(found.body.documents.map(({ id }) => id)).toEqual([2, 4, 1, 6]);
    const repeated = await collection([
      { id: 1, k: 1 },
      { id: 2, k: 1 },
    ]);
    expect((await server.call('POST', `/collections/${repeated}/indexes`, { keys: ['@.k'], unique: true })).status).toBe(422);
  });

  test('saved pipelines are kept, read and removed', async () => {
    const body = { pipeline: 'from huts', note: 'all', guards: { memoryBytes: 1_000 } };
    expect(await server.call('PUT', '/pipelines/My%20huts', body)).toMatchObject({
      status: 200,
      body: { name: 'My huts', note: 'all', view: false },
    });
    expect((await server.call('GET', '/pipelines/My%20huts')).body).toMatchObject(body);
    expect((await server.call('DELETE', '/pipelines/My%20huts')).status).toBe(204);
    expect((await server.call('GET', '/pipelines/My%20huts')).status).toBe(404);
  });
});

describe('the door', () => {
  test('answers only for its own hosts and pages', async () => {
    expect((await server.call('GET', '/collections', undefined, { origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await server.call('GET', '/nothing')).status).toBe(404);
    const description = (await server.call<{ openapi: string; paths: object }>('GET', '/openapi.json')).body;
    expect(description.openapi).toBe('3.1.0');
    expect(Object.keys(description.paths)).toContain('/api/query');
  });
});

test('the loops of a pipeline are told as text', async () => {
  const name = await collection([{ id: 1, kind: 'a' }]);
  const ask = (lines: string) => server.call<string>('POST', '/plan?show=loop', { pipeline: `from ${name}\n${lines}` });
  const { status, headers, body } = await ask('where @.kind == "a"\ngroup by @.kind measure n = count()');
  expect([status, headers.get('content-type')]).toEqual([200, expect.stringMatching(/^text\/plain/)]);
  expect(body).toMatch(/^\/\/ Loop 1 of 1\n\/\/ lines 1, 2: full scan/);
  expect(body).toContain('function intoGroups(rows');
  const wrong = await ask('where');
  expect([wrong.status, wrong.body]).toMatchObject([422, { type: '/problems/pipeline' }]);
});
