import { keptRunDetail, savedPipeline, sqlResult, type SqlAnswer } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  const fill = async (name: string, documents: unknown[]) => {
    await server.call('POST', '/collections', { name });
    await server.call('POST', `/collections/${name}/documents`, documents);
  };
  await fill('huts', Array.from({ length: 20 }, (_, i) => ({ id: i, name: `hut ${i}`, region: i % 5 ? `r${i % 3}` : null }))); // prettier-ignore
  await fill('bookings', Array.from({ length: 400 }, (_, i) => ({ id: `b${i}`, hutId: i % 25, status: i % 4 ? 'arrived' : 'late', nights: [{ fee: 10 }, { fee: i % 7 }] }))); // prettier-ignore
});
afterAll(() => server.remove());

interface Fault {
  readonly type: string;
  readonly detail: string;
  readonly line?: number;
  readonly diagnostics?: readonly { readonly from: number; readonly to: number; readonly mend?: { readonly label: string } }[];
}
const ask = async (sql: string, more: object = {}): Promise<SqlAnswer> => {
  const { status, body } = await server.call('POST', '/sql', { sql, ...more });
  if (status !== 200) throw new Error(JSON.stringify(body));
  return sqlResult.parse(body);
};
const refused = (sql: string, more: object = {}) => server.call<Fault>('POST', '/sql', { sql, ...more });

test('a question in SQL is answered with its pipeline, its clauses and its plan, and the run is kept with its text', async () => {
  const sql = "SELECT h.region, SUM(n.fee) AS fees\nFROM bookings AS b\nJOIN huts AS h ON h.id = b.hutId\nCROSS JOIN UNNEST(b.nights) AS n\nWHERE b.status = :status\nGROUP BY h.region\nORDER BY fees DESC"; // prettier-ignore
  const answer = await ask(sql, { parameters: { status: 'late' } });
  const same = await server.call('POST', '/query', { pipeline: answer.pipeline, parameters: { status: 'late' } });
  expect(answer.documents).toEqual((same.body as SqlAnswer).documents);
  expect(answer.documents.length).toBe(4);
  const lines = answer.pipeline!.split('\n');
  const became = answer.clauses.map(({ from, to, lines: of }) => [sql.slice(from, to).split(' ')[0], of.map((line) => lines[line - 1]!.split(' ')[0])]); // prettier-ignore
  expect(became).toEqual([['SELECT', ['select']], ['FROM', ['from']], ['JOIN', ['join']], ['CROSS', ['unnest']], ['WHERE', ['where']], ['GROUP', ['group']], ['ORDER', ['order']]]); // prettier-ignore
  await new Promise((resolve) => setTimeout(resolve, 600));
  const kept = keptRunDetail.parse((await server.call('GET', `/runs/${answer.runId}`)).body);
  expect([kept.sql, kept.pipeline]).toEqual([sql, answer.pipeline]);
  const found = await server.call<{ runs: { id: string }[] }>('GET', '/runs?text=cross+join+unnest');
  expect(found.body.runs.map(({ id }) => id)).toContain(answer.runId);
});

test('an index and its plan serve SQL as they serve the notation', async () => {
  const sql = "SELECT id FROM bookings WHERE status = 'late' AND hutId < 3";
  const { documents, cost } = await ask(sql);
  expect(cost.documentsRead).toBe(400);
  await server.call('POST', '/collections/bookings/indexes', { keys: ['@.status', '@.hutId'] });
  const served = await ask(sql);
  expect(served.documents).toEqual(documents);
  expect(served.cost.documentsRead).toBe(documents.length);
});

test('tables tell of themselves', async () => {
  expect((await ask('SHOW TABLES;')).documents).toEqual([
    { name: 'bookings', kind: 'collection', documents: 400 },
    { name: 'huts', kind: 'collection', documents: 20 },
  ]);
  const described = await ask('DESCRIBE bookings');
  expect(described.documents).toContainEqual({ path: 'nights[*].fee', types: 'number', presence: 1, example: 10 });
  expect([described.runId, described.pipeline, described.hasMore]).toEqual([null, null, false]);
  await server.call('POST', '/collections', { name: 'odd' });
  await server.call('POST', '/collections/odd/documents', [{ id: 1, 'hut no': 2, order: { 'a.b': [{ "c'd": 3, 'e"f': 4 }] } }]);
  const odd = (await ask('DESCRIBE odd')).documents as { path: string }[];
  expect(odd.map(({ path }) => path)).toEqual(
    expect.arrayContaining(['id', '"hut no"', `"order"."a.b"[*]."c'd"`, '"order"."a.b"[*]."e""f"']),
  );
  await server.call('DELETE', '/collections/odd');
  const explained = await ask("EXPLAIN SELECT id FROM huts WHERE region = 'r1'");
  expect(explained.documents[0]).toMatchObject({ step: 'full scan', lines: [1, 2] });
});

test('faults are told with their places in the SQL', async () => {
  const cases: [string, object, string, string?][] = [
    ['SELECT id FROM hut', {}, 'hut', 'Write huts'],
    ['SELECT lenght(name) FROM huts', {}, 'lenght', 'Write CHAR_LENGTH'],
    ['SELECT id FROM huts WHERE id > :least', {}, ':least'],
    ['SELECT id FROM huts LIMIT :n', { parameters: { n: -1 } }, 'LIMIT :n'],
    ['SELECT id FROM bookings AS b JOIN huts AS h ON h.id = b.hutId', {}, 'id', 'Write b.id'],
  ];
  for (const [sql, more, at, mend] of cases) {
    const { status, body } = await refused(sql, more);
    const [first] = body.diagnostics ?? [];
    expect([status, body.type, sql.slice(first?.from, first?.to), first?.mend?.label]).toEqual([422, '/problems/sql', at, mend]);
  }
  const stopped = await refused('SELECT id FROM bookings WHERE hutId = 3', { guards: { documentsRead: 10 } });
  expect(stopped.body).toMatchObject({ type: '/problems/guard-documents-read', line: 1, clauses: expect.any(Array) as unknown });
});

test('a pipeline saved in SQL is a view, is joined, and keeps its text when what it reads is called otherwise', async () => {
  const sql = 'SELECT hutId, COUNT(*) AS n FROM bookings GROUP BY hutId';
  const saved = savedPipeline.parse((await server.call('PUT', '/pipelines/by_hut', { sql, view: true })).body);
  expect([saved.sql, saved.pipeline.split('\n')[0]]).toEqual([sql, 'from bookings']);
  const joined = await ask('SELECT h.name, v.n FROM huts AS h JOIN by_hut AS v ON v.hutId = h.id ORDER BY h.id LIMIT 1');
  expect(joined.documents).toEqual([{ name: 'hut 0', n: 16 }]);
  expect((await server.call('POST', '/query', { pipeline: 'from by_hut\nlimit 1' })).body).toMatchObject({ documents: [{ n: 16 }] });
  await server.call('PUT', '/pipelines/reader', { sql: 'SELECT n FROM by_hut WHERE n > 1' });
  await server.call('PATCH', '/pipelines/by_hut', { name: 'counts' });
  const reader = savedPipeline.parse((await server.call('GET', '/pipelines/reader')).body);
  expect([reader.sql, reader.pipeline.split('\n')[0]]).toEqual(['SELECT n FROM counts WHERE n > 1', 'from counts']);
  expect((await server.call<Fault>('PUT', '/pipelines/broken', { sql: 'SELECT FROM' })).body.type).toBe('/problems/sql');
  const described = await ask('DESCRIBE counts');
  expect((described.documents as { path: string }[]).map(({ path }) => path)).toEqual(['hutId', 'n']);
});

test('a collection comes as a script of its table, rows and indexes', async () => {
  const response = await fetch(`${server.address}/api/collections/huts/export?format=sql&dialect=postgresql`);
  const script = await response.text();
  expect(response.headers.get('content-type')).toContain('application/sql');
  expect(script.match(/^\('\d+', '\{/gm)).toHaveLength(20);
  expect(script.trim().split('\n').at(-1)).toBe('COMMIT;');
});

test('SQL goes into a pipeline and back, and what cannot be said is told', async () => {
  const translate = (body: object) => server.call<Record<string, unknown>>('POST', '/sql/translate', body);
  const { body } = await translate({ sql: 'SELECT name FROM huts WHERE region IS NULL' });
  expect(body).toMatchObject({ pipeline: expect.stringContaining('from huts') as unknown, diagnostics: [] });
  const back = await translate({ pipeline: body['pipeline'] });
  expect(back.body).toEqual({ sql: 'SELECT name\nFROM huts\nWHERE region IS NULL', notes: [] });
  const sqlite = await translate({ pipeline: body['pipeline'], dialect: 'sqlite', rows: 'json' });
  expect(sqlite.body).toMatchObject({
    sql: expect.stringContaining("json_object('name'") as unknown,
    notes: [{ unsaid: false }, { unsaid: false }, { unsaid: false }],
  });
  expect((await translate({ sql: 'SELECT nam FROM hut' })).body).toMatchObject({ pipeline: null, diagnostics: [{ severity: 'error' }] });
  expect((await translate({ pipeline: 'from huts\nsample 3 seed 1' })).body).toMatchObject({
    sql: null,
    notes: [{ line: 2, unsaid: true }],
  });
});
