import { TestServer, type Fault } from './server.ts';

/** A server whose threads fail where they are told to: what is acknowledged is there, in every answer, and nothing hangs. */
const server = new TestServer();
beforeAll(async () => {
  await server.start({}, 'test/faulty/main.mjs');
  await server.call('POST', '/collections', { name: 'c' });
  await server.call(
    'POST',
    '/collections/c/documents',
    Array.from({ length: 200 }, (_, n) => ({ id: `d${n}`, n, v: 0 })),
  );
  await server.call('POST', '/collections/c/indexes', { keys: ['@.v'] });
  await server.call('POST', '/collections/c/indexes', { keys: ['@.key'], unique: true });
  await server.call('PUT', '/pipelines/by_v', { pipeline: byV, view: true, materialized: { refresh: 'on change' } });
});
afterAll(() => server.remove());

const byV = 'from c\ngroup by @.v measure n = count()';
/** A view never answers with what it was before a write, whatever has failed meanwhile; and it catches up by itself. */
async function viewAnswers(): Promise<void> {
  const ask = async (more: object) => {
    const { status, body } = await server.call<{ documents: unknown[] }>('POST', '/query', { pipeline: byV, pageSize: 1_000, ...more });
    expect(status).toBe(200);
    return body.documents;
  };
  expect(await ask({})).toEqual(await ask({ ignoreViews: ['by_v'] }));
  // What it has still to write would take the next fault.
  for (let i = 0; i < 200; i++) {
    const { body } = await server.call<{ materialized: { state: string } }>('GET', '/pipelines/by_v');
    if (body.materialized.state === 'fresh') return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('the view has not caught up');
}

const all = { pipeline: 'from c\norder by @.id', pageSize: 1_000 };
interface Document {
  readonly id: string;
  readonly v: number;
}
const documentsBy = async (ways: string): Promise<Document[]> => {
  const answer = await server.call<{ documents: Document[] }>('POST', '/query', { ...all, ways });
  expect(answer.status).toBe(200);
  return answer.body.documents;
};

/** What the file holds, line by line. */
const inFile = async (): Promise<Document[]> => {
  const { body } = await server.call<string>('GET', '/collections/c/export');
  const documents = String(body).trim().split('\n').map((line) => JSON.parse(line) as Document); // prettier-ignore
  return documents.sort((a, b) => (a.id < b.id ? -1 : 1));
};

/** The same by scan, by index and in the file. */
async function everywhere(): Promise<Document[]> {
  const stored = await inFile();
  expect(await documentsBy('full scan')).toEqual(stored);
  const byIndex = await Promise.all(
    [...new Set(stored.map(({ v }) => v))].map(async (v) => {
      const { body } = await server.call<{ documents: Document[] }>('POST', '/query', {
        pipeline: `from c\nwhere @.v == ${v}`,
        pageSize: 1_000,
        ways: 'index',
      });
      return body.documents;
    }),
  );
  expect(byIndex.flat().sort((a, b) => (a.id < b.id ? -1 : 1))).toEqual(stored);
  await viewAnswers();
  return stored;
}

let round = 0;
/** Each way to write: what it sends, and what of it can be seen afterwards. */
const writes: Record<string, (mark: number) => Promise<{ status: number }>> = {
  insert: (mark) => server.call('POST', '/collections/c/documents', [0, 1, 2].map((i) => ({ id: `i${mark}-${i}`, v: mark }))), // prettier-ignore
  replace: (mark) => server.call('PUT', '/collections/c/documents', [0, 1, 2].map((i) => ({ id: `d${i}`, v: mark }))), // prettier-ignore
  patch: (mark) => server.call('PATCH', '/collections/c/documents/d7', { v: mark }, { 'content-type': 'application/merge-patch+json' }),
  import: (mark) =>
    server.call('POST', '/collections/c/import', [0, 1, 2].map((i) => JSON.stringify({ id: `f${mark}-${i}`, v: mark })).join('\n'), {
      'content-type': 'application/x-ndjson',
    }),
  change: (mark) => server.call('POST', '/changes', { change: `from c\nwhere @.n >= 100 && @.n < 103\nset @.v = ${mark}` }),
};
/** How many documents each marks. */
const marked = { insert: 3, replace: 3, patch: 1, import: 3, change: 3 } as const;

const storageCall = { insert: 'insert', replace: 'replace', patch: 'patch', import: 'load', change: 'makeChange' } as const;
const followCall = { insert: 'apply', replace: 'apply', patch: 'apply', import: 'refresh', change: 'applyChange' } as const;
type Kind = keyof typeof marked;
const kinds = Object.keys(marked) as Kind[];

const cases = kinds.flatMap((kind): [Kind, Fault][] => [
  [kind, { service: 'storage', method: storageCall[kind], when: 'before', what: 'fail' }],
  [kind, { service: 'storage', method: storageCall[kind], when: 'after', what: 'fail' }],
  [kind, { service: 'storage', method: storageCall[kind], when: 'before', what: 'die' }],
  [kind, { service: 'storage', method: storageCall[kind], when: 'after', what: 'die' }],
  [kind, { service: 'storage', sql: 'COMMIT', when: 'before', what: 'fail' }],
  [kind, { service: 'storage', sql: 'COMMIT', when: 'before', what: 'die' }],
  [kind, { service: 'storage', sql: 'COMMIT', when: 'after', what: 'die' }],
  [kind, { service: 'engine', method: followCall[kind], when: 'before', what: 'fail' }],
  [kind, { service: 'engine', method: followCall[kind], when: 'before', what: 'die' }],
  [kind, { service: 'engine', method: followCall[kind], when: 'after', what: 'die' }],
]);

const told = ({ service, method, sql, when, what }: Fault): string => `the ${service} is made to ${what} ${when} ${method ?? sql}`;

test.each(cases.map(([kind, fault]) => [kind, told(fault), fault] as const))('%s: %s', async (kind, _, fault) => {
  await everywhere();
  const mark = ++round;
  server.plant(fault);
  const { status } = await writes[kind](mark);
  expect(server.hasFailed).toBe(true);
  const found = (await everywhere()).filter(({ v }) => v === mark).length;
  expect([0, marked[kind]]).toContain(found);
  if (status < 300) expect(found).toBe(marked[kind]);
  // What the engine does after it has been stored is no failure of the write.
  if (fault.service === 'engine') expect(status).toBeLessThan(300);
  // Where nothing was committed, it is not there.
  if (fault.when === 'before' && fault.service === 'storage') expect([status >= 500, found]).toEqual([true, 0]);
});

test.each<[string, Fault]>([
  ['a storage that does not answer', { service: 'storage', method: 'insert', when: 'before', what: 'stall' }],
  ['an engine that is stuck', { service: 'engine', method: 'apply', when: 'before', what: 'block' }],
])('%s holds nobody up for good', async (_, fault) => {
  await everywhere();
  const mark = ++round;
  server.plant(fault);
  const { status } = await writes.insert(mark);
  expect(status).toBe(fault.service === 'engine' ? 201 : 503);
  expect((await writes.insert(++round)).status).toBe(201);
  expect((await everywhere()).filter(({ v }) => v === mark)).toHaveLength(fault.service === 'engine' ? 3 : 0);
});

test('the run log cannot fail anything else, and says that it could not write', async () => {
  await server.call('GET', '/runs');
  server.plant({ service: 'storage', method: 'keepRuns', when: 'before', what: 'fail' });
  await server.call('POST', '/query', { pipeline: 'from c\nwhere @.v == 424242' });
  const failed = await server.call<{ runs: unknown[]; unwritten?: { runs: number; reason: string } }>('GET', '/runs');
  expect(server.hasFailed).toBe(true);
  expect(failed.status).toBe(200);
  expect(failed.body.unwritten).toMatchObject({ runs: 1, reason: expect.stringContaining('planted') as string });
  expect((await server.call('GET', '/advice')).status).toBe(200);
  // It is tried again.
  const again = await server.call<{ runs: { pipeline: string }[]; unwritten?: unknown }>('GET', '/runs');
  expect([again.body.runs[0].pipeline, again.body.unwritten]).toEqual(['from c\nwhere @.v == 424242', undefined]);
});

describe('a write with an Idempotency-Key', () => {
  const key = (name: string) => ({ 'idempotency-key': `${name} ${round}` });
  const counted = async (mark: number) => (await everywhere()).filter(({ v }) => v === mark).length;

  test('is made once, and gives the first answer again', async () => {
    const mark = ++round;
    const send = () => server.call('POST', '/collections/c/documents', [{ v: mark }], key('insert'));
    const [first, second] = [await send(), await send()];
    expect([first.status, second.status]).toEqual([201, 201]);
    expect(second.body).toEqual(first.body);
    expect(await counted(mark)).toBe(1);
    const { status, body } = await server.call('POST', '/collections/c/documents', [{ v: 0 }], key('insert'));
    expect([status, body.type]).toEqual([422, '/problems/idempotency']);
  });

  test.each<[string, Fault]>([
    ['dies after the commit', { service: 'storage', sql: 'COMMIT', when: 'after', what: 'die' }],
    ['dies before it', { service: 'storage', sql: 'COMMIT', when: 'before', what: 'die' }],
  ])('can be sent again where the storage %s', async (_, fault) => {
    const mark = ++round;
    server.plant(fault);
    const send = () =>
      server.call('POST', '/collections/c/import', [1, 2].map(() => JSON.stringify({ v: mark })).join('\n'), {
        'content-type': 'application/x-ndjson',
        ...key('import'),
      });
    expect((await send()).status).toBe(503);
    const again = await send();
    expect([again.status, again.body]).toMatchObject([200, { inserted: 2 }]);
    expect(await counted(mark)).toBe(2);
  });

  test('stands for what takes its own collection or index away', async () => {
    round++;
    const twice = async (method: string, path: string, body?: object) => {
      const send = () => server.call(method, path, body, key(`${method} ${path}`));
      const [first, second] = [await send(), await send()];
      expect([second.status, second.body]).toEqual([first.status, first.body]);
      return first.status;
    };
    expect(await twice('POST', '/collections', { name: 'passing', identity: '@.id' })).toBe(201);
    expect(await twice('POST', '/collections/passing/indexes', { name: 'n', keys: ['@.n'] })).toBe(201);
    expect(await twice('DELETE', '/collections/passing/indexes/n')).toBe(204);
    expect(await twice('PATCH', '/collections/passing', { name: 'passed' })).toBe(200);
    expect(await twice('DELETE', '/collections/passed/documents')).toBe(200);
    expect(await twice('DELETE', '/collections/passed')).toBe(204);
    // Without a key it is told that it is gone.
    expect((await server.call('DELETE', '/collections/passed')).status).toBe(404);
  });

  test('stands for a change, an undo, an index and stored rows too', async () => {
    const mark = ++round;
    const body = { change: `from c\nwhere @.n == 5\nset @.v = ${mark}` };
    const change = () => server.call<{ changeId: string }>('POST', '/changes', body, key('change'));
    const [first, second] = [await change(), await change()];
    expect(second.body).toEqual(first.body);
    const undo = () => server.call('POST', `/changes/${first.body.changeId}/undo`, undefined, key('undo'));
    expect([(await undo()).body, (await undo()).body]).toEqual([{ restored: 1 }, { restored: 1 }]);
    const index = () => server.call('POST', '/collections/c/indexes', { keys: ['@.n'] }, key('index'));
    const [built, told] = [await index(), await index()];
    expect([built.status, told.status, told.body]).toEqual([201, 201, built.body]);
    const { runId } = (await server.call<{ runId: string }>('POST', '/query', { pipeline: 'from c\nwhere @.n > 110 && @.n < 114' })).body;
    const store = () => server.call('POST', `/runs/${runId}/store`, { collection: `rows${mark}`, mode: 'new', identity: '@.id' }, key('s'));
    const [stored, again] = [await store(), await store()];
    expect([stored.status, stored.body]).toMatchObject([200, { inserted: 3 }]);
    expect([again.status, again.body]).toEqual([200, stored.body]);
    expect((await server.call(`GET`, `/collections/rows${mark}`)).body.count).toBe(3);
  });
});
