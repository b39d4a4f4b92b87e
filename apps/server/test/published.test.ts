import { execFileSync } from 'node:child_process';
import type { Publication } from '@zesty-sieve/contract';
import { OpenAPIClientAxios, type Document, type OpenAPIClient, type UnknownOperationMethod } from 'openapi-client-axios';
import { TestServer } from './server.ts';

/** Saved pipelines as others ask them: over HTTP, with limits, from what is kept where that is right. */

const server = new TestServer();
let publicAddress = '';
beforeAll(async () => {
  await server.start({ ZESTY_SIEVE_PUBLIC_PORT: '0' });
  for (let i = 0; i < 100 && publicAddress === ''; i++) {
    publicAddress = /answered on (http:\/\/\S+)/.exec(server.wrote)?.[1] ?? '';
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  await server.call('POST', '/collections', { name: 'huts' });
  const huts = Array.from({ length: 300 }, (_, id) => ({ id, region: ['Low Tarn', 'High Tarn', 'Fell'][id % 3], bunks: id % 40, opened: `20${10 + (id % 10)}-05-01`, secret: id * 7 }));
  await server.call('POST', '/collections/huts/documents', huts);
  await save('by_region', 'from huts\nwhere @.region == :region && @.bunks >= :least && :filter\norder by @.id\nselect @.id, @.region, @.bunks');
  await save('counts', 'from huts\ngroup by @.region measure n = count(), bunks = sum(@.bunks)\norder by @.region');
  await save('slow', 'from huts\njoin huts as a on a.bunks == @.bunks\njoin huts as b on b.bunks == @.bunks\ngroup by @.region measure n = count(), most = max(@.a.id * @.b.id)');
}); // prettier-ignore
afterAll(() => server.remove());

const save = (name: string, pipeline: string, more: object = {}) => server.call('PUT', `/pipelines/${name}`, { pipeline, ...more });
const publish = async (name: string, body: object) =>
  server.call<Publication & { detail: string; faults: { parameter: string }[] }>('PUT', `/publications/${name}`, body);
interface Rows {
  documents: { id: number; region: string; bunks: number; n?: number }[];
  hasMore: boolean;
  next?: string;
  detail?: string;
  faults?: { parameter: string; message: string }[];
}
const ask = (path: string, headers: Record<string, string> = {}) => server.call<Rows>('GET', `/published/${path}`, undefined, headers);
const raw = (path: string, options: RequestInit = {}, address = server.address) => fetch(`${address}/api/published/${path}`, options);
const runs = async () =>
  (await server.call<{ total: number; runs: { publication: string | null; pipeline: string }[] }>('GET', '/runs')).body;

const parameters = [
  { name: 'region', kind: 'text', choices: ['Low Tarn', 'High Tarn', 'Fell'] },
  { name: 'least', kind: 'number', least: 0, greatest: 100, default: 0 },
  { name: 'filter', kind: 'condition', fields: ['@.bunks', { path: '@.id', label: 'Number' }] },
];

describe('what it takes', () => {
  beforeAll(async () => expect((await publish('huts-by-region', { pipeline: 'by_region', parameters, maxRows: 30 })).status).toBe(200));

  test('the form says of fields what is noted of them in their collection, unless the publication says otherwise', async () => {
    await server.call('PUT', '/collections/huts/fields', { path: '@.bunks', note: 'In winter too', unit: 'beds' });
    await server.call('PUT', '/collections/huts/fields', { path: '@.secret', note: 'Not for others', unit: '' });
    const { body } = await server.call<{ parameters: { name: string; fields?: unknown }[] }>('GET', '/published/huts-by-region/form');
    expect(body.parameters.find(({ name }) => name === 'filter')?.fields).toEqual([
      { path: '@.bunks', note: 'In winter too', unit: 'beds' },
      { path: '@.id', label: 'Number' },
    ]);
  });

  test('rows, paged by the address of the rest', async () => {
    const first = await ask('huts-by-region?region=Low%20Tarn&least=2');
    expect([first.status, first.body.documents.length, first.body.hasMore]).toEqual([200, 30, true]);
    const all = [...first.body.documents];
    for (let next = first.body.next; next !== undefined;) {
      const { body } = await server.call<Rows>('GET', next.replace('/api', ''));
      all.push(...body.documents);
      next = body.next;
    }
    const { body } = await server.call<Rows>('POST', '/query', { pipeline: 'from huts\nwhere @.region == "Low Tarn" && @.bunks >= 2\norder by @.id\nselect @.id, @.region, @.bunks', pageSize: 1_000 });
    expect(all).toEqual(body.documents);
  }); // prettier-ignore

  test('everything that is wrong with a call is told at once, before anything runs', async () => {
    const before = (await runs()).total;
    const { status, body } = await ask('huts-by-region?region=Nowhere&least=abc&filter=@.secret%3E3&other=1&format=xml&size=0');
    expect(status).toBe(400);
    expect(body.faults!.map(({ parameter }) => parameter).sort()).toEqual(['filter', 'format', 'least', 'other', 'region', 'size']);
    expect(body.detail).not.toContain('secret');
    expect((await ask('huts-by-region')).body.faults).toMatchObject([{ parameter: 'region' }]);
    expect((await ask('huts-by-region?region=Fell&least=')).body.faults).toMatchObject([{ parameter: 'least' }]);
    expect((await ask('huts-by-region?region=Fell&least=3&least=4')).body.faults).toMatchObject([{ parameter: 'least' }]);
    expect((await runs()).total).toBe(before);
  });

  test('a caller’s own condition, of the fields that are listed', async () => {
    const { body } = await ask(`huts-by-region?region=Fell&filter=${encodeURIComponent('@.bunks > 20 && @.id < 100')}`);
    expect(body.documents.length).toBeGreaterThan(5);
    expect(body.documents.every(({ bunks, id }) => bunks > 20 && id < 100)).toBe(true);
    for (const hidden of ['@.secret == 7', 'exists(@.x[?@.secret > 1])', '@.*', 'length(@.secret) > 1', Array.from({ length: 51 }, (_, n) => `@.id == ${n}`).join('||')])
      expect([hidden, (await ask(`huts-by-region?region=Fell&filter=${encodeURIComponent(hidden)}`)).status]).toEqual([hidden, 400]);
  }); // prettier-ignore

  test('as NDJSON and CSV, by HEAD, with a slash at the end, and by an encoded name', async () => {
    const lines = await (await raw('huts-by-region?region=Fell&format=ndjson&size=2')).text();
    expect(lines.trim().split('\n').map((line) => (JSON.parse(line) as { region: string }).region)).toEqual(['Fell', 'Fell']); // prettier-ignore
    const csv = await raw('huts-by-region?region=Fell&format=csv&size=2');
    expect([csv.headers.get('content-type'), (await csv.text()).split('\r\n')[0]?.split('\n')[0]]).toEqual(['text/csv; charset=utf-8', 'id,region,bunks']); // prettier-ignore
    expect(csv.headers.get('link')).toMatch(/offset=2>; rel="next"$/);
    const head = await raw('huts-by-region?region=Fell', { method: 'HEAD' });
    expect([head.status, Number(head.headers.get('content-length')) > 100, await head.text()]).toEqual([200, true, '']);
    expect((await raw('huts-by-region/?region=Fell')).status).toBe(200);
    expect((await raw('huts%2Dby%2Dregion?region=Fell')).status).toBe(200);
    const options = await raw('huts-by-region', { method: 'OPTIONS' });
    expect([options.status, options.headers.get('allow')]).toEqual([204, 'GET, HEAD, OPTIONS']);
    const posted = await raw('huts-by-region', { method: 'POST', body: '{}', headers: { 'content-type': 'application/json' } });
    expect([posted.status, posted.headers.get('allow')]).toEqual([405, 'GET, HEAD, OPTIONS']);
    expect((await raw('nothing')).status).toBe(404);
  });

  test('curl reads the same', async () => {
    const said = execFileSync('curl', ['-s', `${server.address}/api/published/huts-by-region?region=Fell&size=3`]).toString();
    expect(JSON.parse(said)).toEqual((await ask('huts-by-region?region=Fell&size=3')).body);
  });
});

test('what cannot be published is refused with everything that is wrong', async () => {
  const wrong = await publish('wrong', { pipeline: 'by_region', parameters: [{ name: 'region', kind: 'condition' }, { name: 'none', kind: 'text' }, { name: 'filter', kind: 'text' }], columns: [{ path: '@.region' }, { path: '@.nights[*]' }] }); // prettier-ignore
  expect(wrong.status).toBe(400);
  expect(wrong.body.faults.map(({ parameter }) => parameter).sort()).toEqual(['@.nights[*]', 'filter', 'least', 'none', 'region']);
  expect((await publish('wrong', { pipeline: 'nobody' })).status).toBe(404);
  expect((await publish('openapi', { pipeline: 'counts' })).status).toBe(400);
  await save('now', 'from huts\nwhere @.opened < now()');
  expect((await publish('wrong', { pipeline: 'now', cache: { until: 'change' } })).status).toBe(400);
  expect((await server.call('GET', '/publications/wrong')).status).toBe(404);
});

describe('what is kept', () => {
  test('until something changes: no answer is older than the last write that was acknowledged', async () => {
    await publish('counts', { pipeline: 'counts', cache: { until: 'change' } });
    const first = await raw('counts');
    const tag = first.headers.get('etag')!;
    expect([first.headers.get('cache-control'), first.headers.get('cache-status')]).toEqual(['no-cache', 'zesty-sieve; fwd=miss; stored']);
    const again = await raw('counts');
    expect([again.headers.get('cache-status'), again.headers.get('etag'), again.headers.get('age')]).toEqual([
      'zesty-sieve; hit',
      tag,
      '0',
    ]);
    expect((await raw('counts', { headers: { 'if-none-match': tag } })).status).toBe(304);
    let total = 100;
    for (let i = 0; i < 25; i++) {
      const written = await server.call('POST', '/collections/huts/documents', [{ id: 10_000 + i, region: 'Fell', bunks: 1 }]);
      expect(written.status).toBe(201);
      total++;
      const seen = await Promise.all(Array.from({ length: 4 }, () => ask('counts')));
      for (const { body } of seen) expect(body.documents[0]).toMatchObject({ region: 'Fell', n: total });
    }
    const changed = await raw('counts', { headers: { 'if-none-match': tag } });
    expect([changed.status, changed.headers.get('etag') !== tag]).toEqual([200, true]);
    // The tag stands over a restart: nothing has changed.
    const last = (await raw('counts')).headers.get('etag')!;
    await server.kill();
    await server.start({ ZESTY_SIEVE_PUBLIC_PORT: '0' });
    publicAddress = '';
    expect((await raw('counts', { headers: { 'if-none-match': last } })).status).toBe(304);
  });

  test('a view that follows, read by name, is never behind either', async () => {
    await save('kept', 'from huts\ngroup by @.region measure n = count()', { view: true, materialized: { refresh: 'on change' } });
    await save('of_kept', 'from kept\norder by @.region');
    await publish('of-kept', { pipeline: 'of_kept', cache: { until: 'change' } });
    await ask('of-kept');
    for (let i = 0; i < 10; i++) {
      const { body: before } = await ask('of-kept');
      await server.call('POST', '/collections/huts/documents', [{ id: 20_000 + i, region: 'Fell' }]);
      expect((await ask('of-kept')).body.documents[0]?.n).toBe(before.documents[0]!.n! + 1);
    }
  });

  test('kept rows that are out of date are said to be as old as they are', async () => {
    await save('on_demand', 'from huts\ngroup by @.region measure n = count()', { view: true, materialized: { refresh: 'on demand' } });
    await save('of_demand', 'from on_demand\norder by @.region');
    await publish('of-demand', { pipeline: 'of_demand', cache: null });
    expect((await raw('of-demand')).headers.get('zesty-sieve-as-of')).toBeNull();
    await server.call('POST', '/collections/huts/documents', [{ id: 40_000, region: 'Fell' }]);
    const { materialized } = (await server.call<{ materialized: { refreshedAt: string } }>('GET', '/pipelines/on_demand')).body;
    for (const format of ['json', 'csv'])
      expect((await raw(`of-demand?format=${format}`)).headers.get('zesty-sieve-as-of')).toBe(materialized.refreshedAt);
    await server.call('POST', '/pipelines/on_demand/refresh');
    expect((await raw('of-demand')).headers.get('zesty-sieve-as-of')).toBeNull();
  });

  test('200 who ask at once cause one run', async () => {
    await publish('slow', { pipeline: 'slow', cache: { until: 'change' }, guards: { timeMs: 60_000, documentsRead: 1e9 } });
    const before = (await runs()).total;
    const answers = await Promise.all(Array.from({ length: 200 }, () => raw('slow')));
    expect(new Set(answers.map(({ status }) => status))).toEqual(new Set([200]));
    expect(answers.filter(({ headers }) => headers.get('cache-status') === 'zesty-sieve; fwd=miss; stored')).toHaveLength(1);
    const after = await runs();
    expect([after.total - before, after.runs[0]]).toMatchObject([1, { publication: 'slow' }]);
  });

  test('parameters that differ by their type alone are two questions', async () => {
    await save('typed', 'from huts\nwhere @.id < 3\nselect @.id, :x as x');
    await publish('as-text', { pipeline: 'typed', parameters: [{ name: 'x', kind: 'text' }], cache: { freshSeconds: 60 } });
    await publish('as-list', { pipeline: 'typed', parameters: [{ name: 'x', kind: 'list', of: 'number' }], cache: { freshSeconds: 60 } });
    expect((await ask('as-text?x=1')).body.documents[0]).toEqual({ id: 0, x: '1' });
    expect((await ask('as-list?x=1')).body.documents[0]).toEqual({ id: 0, x: [1] });
    expect((await ask('as-list?x=1&x=2')).body.documents[0]).toEqual({ id: 0, x: [1, 2] });
    expect((await ask('as-text?x=')).body.documents[0]).toEqual({ id: 0, x: '' });
    expect((await ask('as-list?x=a')).status).toBe(400);
  });

  test('for a time: an answer stands, is made anew behind it, and says how old it is', async () => {
    await publish('timed', { pipeline: 'counts', cache: { freshSeconds: 2, staleSeconds: 30 } });
    const first = await raw('timed');
    expect(first.headers.get('cache-control')).toBe('max-age=2, stale-while-revalidate=30');
    const n = ((await first.json()) as Rows).documents[0]!.n!;
    await server.call('POST', '/collections/huts/documents', [{ id: 30_000, region: 'Fell' }]);
    expect((await ask('timed')).body.documents[0]?.n).toBe(n);
    await new Promise((resolve) => setTimeout(resolve, 1_200));
    // The old one is served, and a new one made.
    expect((await ask('timed')).body.documents[0]?.n).toBe(n);
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect((await ask('timed')).body.documents[0]?.n).toBe(n + 1);
    // Putting it anew drops what was kept.
    await server.call('POST', '/collections/huts/documents', [{ id: 30_001, region: 'Fell' }]);
    await publish('timed', { pipeline: 'counts', cache: { freshSeconds: 2, staleSeconds: 30 }, title: 'Anew' });
    expect((await ask('timed')).body.documents[0]?.n).toBe(n + 2);
  });
});

test('a guard ends what takes too much; it is kept for nobody, and nothing of the plan is told', async () => {
  await publish('bounded', { pipeline: 'counts', cache: { freshSeconds: 60 }, guards: { documentsRead: 10 } });
  for (let i = 0; i < 2; i++) {
    const { status, body, headers } = await ask('bounded');
    expect([status, headers.get('cache-control')]).toEqual([422, 'no-store']);
    expect(Object.keys(body).sort()).toEqual(['detail', 'instance', 'limit', 'reached', 'status', 'title', 'type']);
  }
  const { body } = await server.call<Publication>('GET', '/publications/bounded');
  expect(body.totals).toMatchObject({ calls: 2, failures: 2, fromCache: 0, lastFailure: { message: expect.any(String) as string } });
});

test('keys open what they were made for, and nothing else', async () => {
  await publish('locked', { pipeline: 'counts', access: 'key' });
  await publish('other', { pipeline: 'counts', access: 'key' });
  const none = await raw('locked');
  expect([none.status, none.headers.get('www-authenticate')]).toEqual([401, 'Bearer realm="published"']);
  const made = await server.call<{ id: string; key: string }>('POST', '/publications/locked/keys', { name: 'dashboard' });
  expect(made.status).toBe(201);
  const bearer = { authorization: `Bearer ${made.body.key}` };
  const right = await raw('locked', { headers: bearer });
  expect([right.status, right.headers.get('vary'), right.headers.get('cache-control')]).toEqual([
    200,
    'Authorization',
    'private, no-store',
  ]);
  expect((await raw('other', { headers: bearer })).status).toBe(401);
  expect((await raw('locked', { headers: { authorization: `${bearer.authorization}x` } })).status).toBe(401);
  const { body } = await server.call('GET', '/publications/locked/keys');
  expect(body).toMatchObject({ keys: [{ id: made.body.id, name: 'dashboard', lastUsedAt: expect.any(String) as string }] });
  expect(JSON.stringify(body)).not.toContain(made.body.key.split('.')[1]);
  const described = async (headers = {}) =>
    Object.keys(((await (await raw('openapi.json', { headers })).json()) as { paths: object }).paths);
  expect(await described()).not.toContain('/api/published/locked');
  expect(await described(bearer)).toContain('/api/published/locked');
  expect((await server.call('DELETE', `/publications/locked/keys/${made.body.id}`)).status).toBe(204);
  expect((await raw('locked', { headers: bearer })).status).toBe(401);
  expect(server.said).not.toContain(made.body.key.split('.')[1]);
});

test('pages from the origins that are listed may ask, and no others', async () => {
  await publish('shared', { pipeline: 'counts', origins: ['https://board.example.org'] });
  const from = (origin: string, method = 'GET') => raw('shared', { method, headers: { origin } });
  const listed = await from('https://board.example.org');
  expect([listed.status, listed.headers.get('access-control-allow-origin'), listed.headers.get('vary')]).toEqual([200, 'https://board.example.org', 'Origin']); // prettier-ignore
  expect((await from('https://board.example.org', 'OPTIONS')).headers.get('access-control-allow-headers')).toBe(
    'Authorization, If-None-Match',
  );
  expect((await from('https://elsewhere.example.org')).status).toBe(403);
});

test('a pipeline that is published is not dropped unasked; renamed it stays published; what cannot be answered says so', async () => {
  await save('going', 'from huts\nselect @.id');
  await publish('going', { pipeline: 'going' });
  expect((await server.call('DELETE', '/pipelines/going')).status).toBe(409);
  expect((await server.call('PATCH', '/pipelines/going', { name: 'gone' })).status).toBe(200);
  expect((await server.call<Publication>('GET', '/publications/going')).body).toMatchObject({ pipeline: 'gone', problem: null });
  expect((await ask('going?size=2')).status).toBe(200);
  await save('gone', 'from nowhere\nselect @.id');
  expect((await ask('going')).status).toBe(422);
  expect((await server.call<Publication>('GET', '/publications/going')).body.problem).toContain('nowhere');
  expect((await server.call('DELETE', '/pipelines/gone?force=true')).status).toBe(204);
  expect((await ask('going')).status).toBe(422);
  expect((await server.call('DELETE', '/publications/going')).status).toBe(204);
  expect((await ask('going')).status).toBe(404);
});

test('a client that is generated from the description asks rightly, and is told what is wrong', async () => {
  const definition = (await (await raw('openapi.json')).json()) as Document;
  const made = new OpenAPIClientAxios({ definition, axiosConfigDefaults: { baseURL: server.address, validateStatus: () => true, paramsSerializer: { indexes: null } } }); // prettier-ignore
  const client = await made.init<OpenAPIClient & Record<'huts-by-region', UnknownOperationMethod>>();
  const answered = await client['huts-by-region']({ region: 'Fell', least: 30, filter: '@.bunks < 33' });
  const { documents } = answered.data as Rows;
  expect([answered.status, documents.length > 0, documents.every(({ bunks, region }) => region === 'Fell' && bunks >= 30 && bunks < 33)]).toEqual([200, true, true]); // prettier-ignore
  // What the description says has to be given, is what is missed.
  const wanted = made.getOperation('huts-by-region')!.parameters!.filter((one) => 'required' in one && one.required === true);
  expect(wanted).toMatchObject([{ name: 'region', in: 'query' }]);
  const missing = await client['huts-by-region']();
  expect([missing.status, (missing.data as Rows).faults]).toMatchObject([400, [{ parameter: 'region' }]]);
});

test('the listener for others answers what is published and nothing else', async () => {
  for (let i = 0; i < 100 && publicAddress === ''; i++) {
    publicAddress = /answered on (http:\/\/\S+)/.exec(server.wrote)?.[1] ?? '';
    await new Promise((resolve) => setTimeout(resolve, 20));
  }
  expect((await raw('counts', {}, publicAddress)).status).toBe(200);
  for (const path of ['/api/collections', '/api/publications', '/api/query', '/', '/bench', '/index.html'])
    expect([path, (await fetch(publicAddress + path)).status]).toEqual([path, 404]);
});
