import { TestServer } from './server.ts';

/** Pipelines of thousands of lines and documents that nest as deep as they may: each call on them is answered, and those beyond are refused. */
const server = new TestServer();
beforeAll(async () => {
  await server.start();
  await server.call('POST', '/collections', { name: 'c' });
  await server.call(
    'POST',
    '/collections/c/documents',
    Array.from({ length: 20 }, (_, id) => ({ id, a: id })),
  );
});
afterAll(() => server.remove());

const most = 3_000;
const long = (lines: readonly string[], count = most - 1) => ['from c', ...Array.from({ length: count }, (_, i) => lines[i % lines.length]!)].join('\n'); // prettier-ignore

test.each<[string, readonly string[]]>([
  ['conditions', ['where @.a != 1000']],
  ['of all kinds', ['where @.a != 1000', 'compute x = @.a', 'order by @.a', 'omit @.x', 'limit 100', 'offset 0']],
])(
  'a pipeline of thousands of lines is run, planned, kept, read again and traced: %s',
  async (_, lines) => {
    const pipeline = long(lines);
    // Thousands of lines take seconds to be compiled: that is not what is looked at here.
    const { status, body } = await server.call('POST', '/query', { pipeline, guards: { timeMs: 60_000 } });
    expect([status, body.rowsReturned]).toEqual([200, 20]);
    expect((await server.call('POST', '/plan', { pipeline })).status).toBe(200);
    expect((await server.call('GET', `/runs/${String(body.runId)}`)).status).toBe(200);
    expect((await server.call('PUT', '/pipelines/long', { pipeline })).status).toBe(200);
    expect((await server.call('GET', '/pipelines/long')).status).toBe(200);
    // Each line that counts rows is run up to: there may be no time for all of them, and then it is said.
    const traced = await server.call('POST', '/trace', { pipeline, identity: '3' });
    if (traced.status !== 200) expect(traced.body).toMatchObject({ type: '/problems/guard-time', detail: expect.stringMatching(/^Tracing was stopped at line \d+ after 1\d{4} ms/) as string }); // prettier-ignore
  },
  120_000,
);

test('one with more lines than that is refused, with what to do', async () => {
  const { status, body } = await server.call('POST', '/query', { pipeline: long(['limit 100'], most) });
  expect([status, body.diagnostics]).toMatchObject([422, [{ code: 'too-long', line: most + 1 }]]);
});

const nested = (levels: number): unknown => JSON.parse('['.repeat(levels) + ']'.repeat(levels));
const asPatch = { 'content-type': 'application/merge-patch+json' };
const asOperations = { 'content-type': 'application/json-patch+json' };
const asLines = { 'content-type': 'application/x-ndjson' };

test('documents that nest as deep as they may are taken, shown, asked about, changed and given out', async () => {
  const id = 'deep';
  const calls: [string, string, unknown?, Record<string, string>?][] = [
    ['POST', '/collections/c/documents', { id, n: nested(499) }],
    ['POST', '/imports/preview', `${JSON.stringify({ id, n: nested(499) })}\n`, asLines],
    ['GET', `/collections/c/documents/${id}`],
    ['POST', '/query', { pipeline: 'from c\norder by @.n' }],
    ['POST', '/query', { pipeline: 'from c\nwhere @.n == :n', parameters: { n: nested(499) } }],
    ['GET', '/collections/c/shape'],
    ['GET', '/collections/c/export'],
    ['PATCH', '/collections/c/documents/3', { n: nested(499) }, asPatch],
    ['PATCH', '/collections/c/documents/3', [{ op: 'add', path: '/n', value: nested(499) }], asOperations],
  ];
  for (const [method, path, sent, headers] of calls) expect([path, (await server.call(method, path, sent, headers)).status < 300]).toEqual([path, true]);
}); // prettier-ignore

test.each([501, 3_000, 100_000])('those of %i levels are refused wherever they come in, and nobody waits for them', async (levels) => {
  const deep = '['.repeat(levels) + ']'.repeat(levels);
  const body = `{"id": "deeper", "n": ${deep}}`;
  const asJson = { 'content-type': 'application/json' };
  expect((await server.call('POST', '/collections/c/documents', body, asJson)).status).toBe(422);
  const preview = await server.call('POST', '/imports/preview', `${body}\n`, asLines);
  expect([preview.status, preview.body.problems]).toEqual([200, [{ line: 1, reason: 'it is nested more than 500 levels deep' }]]);
  const loaded = await server.call('POST', '/collections/c/import', `${body}\n`, asLines);
  expect([loaded.status, loaded.body.inserted]).toEqual([200, 0]);
  expect((await server.call('PATCH', '/collections/c/documents/3', body, asPatch)).status).toBe(422);
  const asked = `{"pipeline": "from c", "parameters": {"p": ${deep}}}`;
  expect((await server.call('POST', '/query', asked, asJson)).status).toBeLessThan(500);
  expect((await server.call('GET', '/collections/c/documents/deeper')).status).toBe(404);
});
