import { TestServer } from './server.ts';

let server: TestServer;
const vectorOf = (i: number) => Array.from({ length: 8 }, (_, d) => Math.sin(i * (d + 1.3)));
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'scenes' });
  await server.call(
    'POST',
    '/collections/scenes/documents',
    Array.from({ length: 900 }, (_, id) => ({ id, v: vectorOf(id), t: `scene ${id}` })),
  );
  await server.call('POST', '/collections/scenes/indexes', { name: 'vectors', kind: 'vector', keys: ['@.v'] });
  await server.call('POST', '/collections/scenes/indexes', { name: 'words', kind: 'text', keys: ['@.t'] });
});
afterAll(() => server.remove());

const pipeline = 'from scenes\nbest 5 by cosine_similarity(@.v, :v) effort 50\nselect @.id';
const ask = async () => (await server.call('POST', '/query', { pipeline, parameters: { v: vectorOf(7) } })).body;
const listed = async () => {
  const { body } = await server.call<{ indexes: { name: string; recall?: unknown }[] }>('GET', '/collections/scenes/indexes');
  return body.indexes.find(({ name }) => name === 'vectors')?.recall;
};
const measured = '/collections/scenes/indexes/vectors/recall';

test('recall is measured, kept over a restart, and told wherever approximate rows stand', async () => {
  expect([await listed(), (await ask())['approximate']]).toEqual([null, { effort: 50 }]);
  const { status, body } = await server.call('POST', measured, { efforts: [50, 5, 50, 900], queries: 20, n: 5 });
  expect([status, body]).toMatchObject([200, { n: 5, queries: 20, points: [{ effort: 5 }, { effort: 50 }, { effort: 900, recall: 1 }] }]);
  const { recall } = (body['points'] as { recall: number }[])[1]!;
  const told = { effort: 50, recall, measuredAt: body['measuredAt'] };
  expect(await listed()).toEqual(body);
  await server.kill('SIGTERM');
  await server.start();
  const answer = await ask();
  expect([answer['approximate'], await listed()]).toEqual([told, body]);
  const rows = `/runs/${String(answer['runId'])}/rows`;
  expect((await server.call('GET', rows)).body['approximate']).toEqual(told);
  for (const format of ['json', 'ndjson', 'csv']) {
    const { headers } = await server.call<string>('GET', `${rows}.${format}`);
    expect(headers.get('zesty-sieve-approximate')).toBe(
      `effort=50, recall=${recall.toFixed(3)}, measured-at="${String(body['measuredAt'])}"`,
    );
  }
  const kept = await server.call<{ runs: { id: string }[] }>('GET', '/runs');
  expect((await server.call('GET', `/runs/${kept.body.runs[0]!.id}`)).body['approximate']).toEqual(told);
  await server.call('PUT', '/pipelines/near', { pipeline });
  await server.call('PUT', '/publications/near', { pipeline: 'near', parameters: [{ name: 'v', kind: 'list', of: 'number' }], cache: { until: 'change' } }); // prettier-ignore
  const published = `/published/near?${vectorOf(7).map((one) => `v=${one}`).join('&')}`; // prettier-ignore
  for (const how of ['miss', 'hit']) {
    const { headers } = await server.call('GET', published);
    expect([headers.get('cache-status'), headers.get('zesty-sieve-approximate')]).toEqual([expect.stringContaining(how), expect.stringContaining(`recall=${recall.toFixed(3)}`)]); // prettier-ignore
  }
  // Rows that are kept of it are no more exact than they were, nor is what is made of those.
  const kept7 = await server.call('PUT', '/pipelines/near_7', { pipeline, parameters: { v: vectorOf(7) }, view: true, materialized: { refresh: 'on demand' } }); // prettier-ignore
  expect(kept7.status).toBe(200);
  await server.call('PUT', '/pipelines/count_near_7', { pipeline: 'from near_7\ngroup all measure n = count()', view: true, materialized: { refresh: 'on demand' } }); // prettier-ignore
  for (const name of ['near_7', 'count_near_7'])
    expect((await server.call('POST', '/query', { pipeline: `from ${name}\nlimit 1` })).body).toMatchObject({ approximate: told, sources: [{ view: name }] }); // prettier-ignore
  const exact = { pipeline: pipeline.replace(' effort 50', ''), parameters: { v: vectorOf(7) } };
  const { body: compared } = await server.call('POST', '/compare', { first: { ...exact, pipeline }, second: exact });
  expect(compared['approximate']).toEqual([told, null]);
});

test('as events, with how far it is', async () => {
  const { body } = await server.call<string>('POST', measured, { queries: 400 }, { accept: 'text/event-stream' });
  expect(body).toMatch(/^event: progress\ndata: {"share":0\.\d+}/);
  expect(body).toMatch(/event: done\ndata: {"n":10,"queries":400,"points":\[{"effort":10,/);
  const failed = await server.call<string>('POST', '/collections/scenes/indexes/words/recall', {}, { accept: 'text/event-stream' });
  expect(failed.body).toMatch(/event: problem\ndata: .*always gives the true best/);
});

test.each([
  [measured, { efforts: [5], n: 10 }, 400, /n or more/],
  [measured, { queries: 0 }, 400, /queries/],
  ['/collections/scenes/indexes/none/recall', {}, 404, /no index none/],
  ['/collections/none/indexes/vectors/recall', {}, 404, /no collection none/],
  ['/collections/scenes/indexes/words/recall', {}, 422, /always gives the true best/],
])('%s %j is refused', async (path, asked, status, words) => {
  const answer = await server.call('POST', path, asked);
  expect([answer.status, JSON.stringify(answer.body)]).toEqual([status, expect.stringMatching(words)]);
});

test('whoever goes away ends it, and nothing of it is kept', async () => {
  const before = await listed();
  const leaving = new AbortController();
  const going = fetch(`${server.address}/api${measured}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"queries":1000,"n":50}', signal: leaving.signal });
  setTimeout(() => leaving.abort(), 100);
  await expect(going).rejects.toThrow("aborted");
  expect(await listed()).toEqual(before);
}); // prettier-ignore
