import { routes, type Route } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

let server: TestServer;
afterAll(() => server.remove());

interface Call {
  /** The address below /api, its parameters filled in. */
  readonly path: string;
  readonly body?: unknown;
  readonly headers?: Record<string, string>;
  /** Where another of the documented ways to end is taken. */
  readonly status?: number;
}

const lines = { 'content-type': 'application/x-ndjson' };
const late = 'from stays\nwhere @.status == "late"';
/** What earlier calls gave that later ones ask for. */
const known = { runId: '', changeId: '', otherRun: '', key: '', keyId: '' };

/** Every call of the API once, in an order in which each finds what it needs. A forgotten one fails the last test. */
const calls: readonly (readonly [route: string, call: () => Call])[] = [
  ['post /collections', () => ({ path: '/collections', body: { name: 'stays', identity: '@.id' } })],
  ['post /collections/:c/documents', () => ({ path: '/collections/stays/documents', body: [{ id: 'first', status: 'late', n: 1, nights: [{ fee: 3 }] }] })], // prettier-ignore
  ['post /imports/preview', () => ({ path: '/imports/preview', body: '{"id": 1, "a": "x"}\n{"id": 2}\n', headers: lines })],
  ['post /collections/:c/import', () => ({ path: '/collections/stays/import?onDuplicate=skip', body: Array.from({ length: 1_500 }, (_, id) => JSON.stringify({ id, n: id % 9, status: id % 50 === 0 ? 'late' : 'fine', hutId: `h${id % 9}` })).join('\n'), headers: lines })], // prettier-ignore
  ['get /collections', () => ({ path: '/collections' })],
  ['get /collections/:c', () => ({ path: '/collections/stays' })],
  ['get /collections/:c/documents', () => ({ path: '/collections/stays/documents?after=3&size=2' })],
  ['put /collections/:c/documents', () => ({ path: '/collections/stays/documents', body: [{ id: 1, n: 5, status: 'fine' }, { id: 'new', n: 0, status: 'late' }] })], // prettier-ignore
  ['post /collections/:c/documents/read', () => ({ path: '/collections/stays/documents/read', body: { identities: [1, 'nobody'] } })],
  ['get /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1' })],
  ['put /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1', body: { id: 1, n: 6, status: 'fine' } })],
  ['patch /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1', body: '{"n": 7}', headers: { 'content-type': 'application/merge-patch+json' } })], // prettier-ignore
  ['delete /collections/:c/documents/:id', () => ({ path: '/collections/stays/documents/1' })],
  ['get /collections/:c/shape', () => ({ path: '/collections/stays/shape' })],
  ['put /collections/:c/fields', () => ({ path: '/collections/stays/fields', body: { path: '@.n', note: 'how many', unit: 'people' } })],
  ['get /collections/:c/json-schema', () => ({ path: '/collections/stays/json-schema' })],
  ['get /collections/:c/expected', () => ({ path: '/collections/stays/expected' })],
  ['put /collections/:c/expected', () => ({ path: '/collections/stays/expected', body: { mode: 'warn', schema: { properties: { n: { type: 'number' } } } } })], // prettier-ignore
  ['post /collections/:c/expected/check', () => ({ path: '/collections/stays/expected/check' })],
  ['post /overlaps', () => ({ path: '/overlaps', body: { first: 'stays', second: 'stays' } })],
  ['get /collections/:c/export', () => ({ path: '/collections/stays/export?format=csv' })],
  ['post /query', () => ({ path: '/query', body: { pipeline: late } })],
  ['get /runs/:runId/rows', () => ({ path: `/runs/${known.runId}/rows?offset=2&size=3` })],
  ['get /runs/:runId/rows.ndjson', () => ({ path: `/runs/${known.runId}/rows.ndjson` })],
  ['get /runs/:runId/rows.json', () => ({ path: `/runs/${known.runId}/rows.json` })],
  ['get /runs/:runId/rows.csv', () => ({ path: `/runs/${known.runId}/rows.csv` })],
  ['post /runs/:runId/store', () => ({ path: `/runs/${known.runId}/store`, body: { collection: 'kept', mode: 'new' } })],
  ['post /plan', () => ({ path: '/plan', body: { pipeline: late, whatIf: [{ keys: ['@.status'] }] } })],
  ['post /sql', () => ({ path: '/sql', body: { sql: "SELECT n FROM stays WHERE status = 'late'" } })],
  ['post /analyse', () => ({ path: '/analyse', body: { texts: ['The bridges'], words: 'bridg*', language: 'english' } })],
  ['post /sql/translate', () => ({ path: '/sql/translate', body: { sql: 'SELECT n FROM stays' } })],
  ['post /counts', () => ({ path: '/counts', body: { pipeline: late, line: 2, conditions: ['@.status == "late"', '@.n > 3'] } })],
  ['post /compare', () => ({ path: '/compare', body: { first: { pipeline: late }, second: { pipeline: `${late}\nlimit 3` } } })],
  ['post /trace', () => ({ path: '/trace', body: { pipeline: late, identity: 3 } })],
  [
    'post /origins',
    () => ({ path: '/origins', body: { pipeline: `${late}\ngroup by @.n measure parties = count()`, row: { n: 3, parties: 1 } } }),
  ],
  ['post /parse', () => ({ path: '/parse', body: { pipeline: 'from stays\nwhere @.statsu == "late"' } })],
  [
    'put /pipelines/:name',
    () => ({
      path: '/pipelines/Late',
      body: { pipeline: late, view: true, materialized: { refresh: 'on demand' }, note: 'who came late' },
    }),
  ],
  ['get /pipelines', () => ({ path: '/pipelines' })],
  ['get /pipelines/:name', () => ({ path: '/pipelines/Late' })],
  ['patch /pipelines/:name', () => ({ path: '/pipelines/Late', body: { name: 'tardy' } })],
  ['post /pipelines/:name/refresh', () => ({ path: '/pipelines/tardy/refresh' })],
  ['delete /pipelines/:name/refresh', () => ({ path: '/pipelines/tardy/refresh', status: 404 })],
  ['put /pipelines/:name/baseline', () => ({ path: '/pipelines/tardy/baseline', body: { runId: null } })],
  ['post /collections/:c/indexes', () => ({ path: '/collections/stays/indexes', body: { keys: ['@.status', '@.n desc'] } })],
  ['get /collections/:c/indexes', () => ({ path: '/collections/stays/indexes' })],
  ['get /collections/:c/indexes/:name/users', () => ({ path: '/collections/stays/indexes/status_n_desc/users' })],
  ['get /collections/:c/indexes/:name/summary', () => ({ path: '/collections/stays/indexes/status_n_desc/summary' })],
  [
    'post /collections/:c/indexes/:name/recall',
    () => ({ path: '/collections/stays/indexes/status_n_desc/recall', body: { queries: 5 }, status: 422 }),
  ],
  ['post /collections/:c/check', () => ({ path: '/collections/stays/check' })],
  ['get /collections/:c/check', () => ({ path: '/collections/stays/check' })],
  ['delete /collections/:c/check', () => ({ path: '/collections/stays/check', status: 404 })],
  ['post /measure', () => ({ path: '/measure', body: { pipeline: late, index: 'status_n_desc', times: 2 } })],
  ['post /measure/pair', () => ({ path: '/measure/pair', body: { first: { pipeline: late }, second: { pipeline: late, ignoreIndexes: ['status_n_desc'] }, times: 2 } })], // prettier-ignore
  ['get /work', () => ({ path: '/work' })],
  ['delete /work/:id', () => ({ path: '/work/nothing', status: 404 })],
  ['get /runs', () => ({ path: '/runs?once=true&order=slowest' })],
  ['get /runs/:runId', () => ({ path: `/runs/${known.runId}` })],
  ['get /advice', () => ({ path: '/advice' })],
  ['post /what-if', () => ({ path: '/what-if', body: { indexes: [{ collection: 'stays', keys: ['@.n'] }] } })],
  ['get /settings', () => ({ path: '/settings' })],
  ['put /settings', () => ({ path: '/settings', body: { runsKept: 500 } })],
  ['post /changes/preview', () => ({ path: '/changes/preview', body: { change: `${late}\nset @.n = @.n + 1`, size: 2 } })],
  ['post /changes', () => ({ path: '/changes', body: { change: `${late}\nset @.n = @.n + 1` } })],
  ['get /changes', () => ({ path: '/changes' })],
  ['get /changes/:id', () => ({ path: `/changes/${known.changeId}` })],
  ['get /changes/:id/documents', () => ({ path: `/changes/${known.changeId}/documents?size=2` })],
  ['post /changes/:id/undo', () => ({ path: `/changes/${known.changeId}/undo` })],
  // What is not under way is not there.
  ['get /changes/progress/:track', () => ({ path: '/changes/progress/nobody', status: 404 })],
  ['get /imports/:track', () => ({ path: '/imports/nobody', status: 404 })],
  ['delete /collections/:c/indexes/:name/build', () => ({ path: '/collections/stays/indexes/nobody/build', status: 404 })],
  ['delete /collections/:c/indexes/:name', () => ({ path: '/collections/stays/indexes/status_n_desc' })],
  ['get /databases', () => ({ path: '/databases' })],
  ['post /databases', () => ({ path: '/databases', body: { name: 'second' } })],
  ['post /databases/:db/copy-collection', () => ({ path: '/databases/test/copy-collection', body: { collection: 'stays', to: 'second' } })],
  ['patch /databases/:db', () => ({ path: '/databases/second', body: { name: 'third' } })],
  ['get /databases/:db/backup', () => ({ path: '/databases/third/backup' })],
  ['post /databases/:db/restore', () => ({ path: '/databases/third/restore', body: 'no database at all', headers: { 'content-type': 'application/vnd.sqlite3' }, status: 400 })], // prettier-ignore
  ['delete /databases/:db', () => ({ path: '/databases/third?name=third' })],
  ['get /backup', () => ({ path: '/backup' })],
  ['patch /collections/:c', () => ({ path: '/collections/kept', body: { name: 'other' } })],
  ['delete /collections/:c/documents', () => ({ path: '/collections/other/documents' })],
  ['put /publications/:name', () => ({ path: '/publications/tardy-stays', body: { pipeline: 'tardy', access: 'key' } })],
  ['get /publications', () => ({ path: '/publications' })],
  ['get /publications/:name', () => ({ path: '/publications/tardy-stays' })],
  ['post /publications/:name/keys', () => ({ path: '/publications/tardy-stays/keys', body: { name: 'board' } })],
  ['get /publications/:name/keys', () => ({ path: '/publications/tardy-stays/keys' })],
  ['get /published/:name', () => ({ path: '/published/tardy-stays?size=2', headers: { authorization: `Bearer ${known.key}` } })],
  ['get /published/:name/form', () => ({ path: '/published/tardy-stays/form', headers: { authorization: `Bearer ${known.key}` } })],
  ['delete /publications/:name/keys/:id', () => ({ path: `/publications/tardy-stays/keys/${known.keyId}` })],
  ['delete /publications/:name', () => ({ path: '/publications/tardy-stays' })],
  ['delete /pipelines/:name', () => ({ path: '/pipelines/tardy' })],
  ['delete /collections/:c', () => ({ path: '/collections/other' })],
];

/** A stream without an end; `changes.test.ts` listens to it. */
const endless = 'get /events';

beforeAll(async () => {
  server = await new TestServer().start();
});

const routeOf = (name: string): Route => {
  const found = routes.find(({ method, path }) => `${method} ${path}` === name);
  if (found === undefined) throw new Error(`${name} is not in the contract`);
  return found;
};

test.each(calls)('%s answers in the form of the contract', async (name, call) => {
  const route = routeOf(name);
  const { path, body, headers, status = route.status } = call();
  const answer = await server.call(route.method.toUpperCase(), path, body, headers);
  expect({ status: answer.status, body: answer.status === status ? undefined : answer.body }).toEqual({ status, body: undefined });
  if (status !== route.status) {
    expect(answer.body).toMatchObject({ status, type: expect.stringMatching(/^\/problems\//) as string });
    return;
  }
  // Nothing that the contract does not tell of, and nothing missing.
  if (route.answer) expect(route.answer.parse(answer.body)).toEqual(answer.body);
  if (name === 'post /query') known.runId = String(answer.body.runId);
  if (name === 'post /publications/:name/keys') [known.key, known.keyId] = [String(answer.body.key), String(answer.body.id)];
  if (name === 'post /changes') known.changeId = String(answer.body.changeId);
  const type = answer.headers.get('content-type') ?? '';
  if (status === 204) expect([type, answer.body]).toEqual(['', '']);
  else if (route.gives && !route.answer) expect(route.gives.some((given) => type.startsWith(given))).toBe(true);
});

test('every call of the contract is made here, and is described at /api/openapi.json', async () => {
  const names = routes.map(({ method, path }) => `${method} ${path}`);
  expect([...calls.map(([name]) => name), endless].sort()).toEqual([...names].sort());
  expect(new Set(names).size).toBe(names.length);
  const { body } = await server.call<{ paths: Record<string, Record<string, { summary: string }>> }>('GET', '/openapi.json');
  const described = Object.entries(body.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method} ${path.replace(/^\/api/, '').replace(/\{(\w+)\}/g, ':$1')}`),
  );
  expect(described.sort()).toEqual([...names].sort());
});

test('a change is planned as a pipeline is', async () => {
  const pipeline = 'from stays\nwhere @.n == 3\nset @.n = 4';
  const { status, body } = await server.call('POST', '/plan', { pipeline, whatIf: [{ collection: 'stays', keys: ['@.n'] }] });
  expect(status).toBe(200);
  expect(routeOf('post /plan').answer?.parse(body)).toEqual(body);
  expect(body).toMatchObject({ plan: { step: 'change', detail: 'set @.n = 4', inputs: [{ step: 'index lookup' }] } });
  expect((await server.call('POST', '/query', { pipeline })).status).toBe(422);
});

test.each([
  ['POST', '/collections/stays/documents/read', '{"identities": [1', 400, '/problems/malformed'],
  ['POST', '/query', '{"pipeline": ', 400, '/problems/malformed'],
  ['POST', '/collections/stays/documents', 'nothing', 400, '/problems/malformed'],
  ['GET', '/collections/stays/documents?size=many', undefined, 400, '/problems/request'],
  ['GET', '/collections/stays/export?format=xml', undefined, 400, '/problems/request'],
  ['GET', '/collections/nowhere/documents', undefined, 404, '/problems/not-found'],
  ['POST', '/collections/stays/indexes', '{"keys": ["@.n"], "kind": "round"}', 400, '/problems/request'],
  ['GET', '/nowhere', undefined, 404, '/problems/not-found'],
  ['PATCH', '/collections/stays/documents/2', '{"n": 1}', 415, '/problems/media-type'],
])('%s %s with %p is answered %d', async (method, path, body, status, type) => {
  const answer = await server.call(method, path, body, { 'content-type': 'application/json' });
  expect([answer.status, answer.body.type]).toEqual([status, type]);
  expect(String(answer.body.detail ?? answer.body.title).length).toBeGreaterThan(10);
});

test('the OpenAPI document says what fields mean', async () => {
  const { body } = await server.call<object>('GET', '/openapi.json');
  const text = JSON.stringify(body);
  for (const told of [
    'Only the stages up to this line.',
    'A condition of the notation: only documents that meet it are indexed.',
    'Bytes in memory.',
  ])
    expect(text).toContain(told);
});
