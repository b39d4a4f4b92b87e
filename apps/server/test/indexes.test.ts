import { indexList, type IndexBuild } from '@zesty-sieve/contract';
import { TestServer } from './server.ts';

/** So many that a build takes a while, of keys that take long to sort. */
const count = 150_000;
const slowKeys = ['fold(@.name)', 'upper(@.name)', 'concat(@.name, "a")', 'concat("b", @.name)', '@.size desc'];

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
  await server.call('POST', '/collections', { name: 'stays', identity: '@.id' });
  const lines = Array.from({ length: count }, (_, i) => JSON.stringify({ id: i, name: `Guest ${(i * 7_919) % count}`, size: i % 13 }));
  await server.call('POST', '/collections/stays/import', lines.join('\n'), { 'content-type': 'application/x-ndjson' });
  await server.call('POST', '/query', { pipeline: 'from stays\nlimit 1' });
});
afterAll(() => server.remove());

const list = async () => indexList.parse((await server.call('GET', '/collections/stays/indexes')).body);
const named = async () => (await list()).indexes.map(({ name }) => name);
const build = (body: object, signal?: AbortSignal) =>
  fetch(`${server.address}/api/collections/stays/indexes`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
    ...(signal && { signal }),
  });

/** Looks until a build is under way; gives what was told of it. */
async function underWay(name: string): Promise<IndexBuild> {
  for (;;) {
    const found = (await list()).building.find((one) => one.name === name && one.phase !== 'waiting');
    if (found !== undefined) return found;
  }
}

test('a build tells how far it is, questions are answered meanwhile, and it can be ended', async () => {
  const asked = build({ name: 'slow', keys: slowKeys });
  await underWay('slow');
  const answer = await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline: 'from stays\nwhere @.size == 3\nlimit 4' });
  expect(answer.body.rowsReturned).toBe(4);
  expect((await list()).building).toHaveLength(1);
  expect((await server.call('DELETE', '/collections/stays/indexes/slow/build')).status).toBe(204);
  const response = await asked;
  expect([response.status, ((await response.json()) as { detail: string }).detail]).toEqual([499, 'The building of slow was cancelled.']);
  expect(await list()).toMatchObject({ indexes: [{ name: 'identity' }], building: [] });
  expect((await server.call('DELETE', '/collections/stays/indexes/slow/build')).status).toBe(404);
});

test('a build goes on when whoever asked for it goes away; a change waits for it and is in it', async () => {
  const gone = new AbortController();
  const asked = build({ name: 'kept', keys: slowKeys }, gone.signal).catch(() => undefined);
  await underWay('kept');
  gone.abort();
  await asked;
  const told: IndexBuild[] = [];
  for (let build = (await list()).building; build.length > 0; build = (await list()).building) told.push(...build);
  // One phase after another, each going forward.
  const phases = ['reading', 'sorting', 'filling'];
  const far = told.map(({ phase, share }) => phases.indexOf(phase) + share);
  expect(far.length).toBeGreaterThan(2);
  expect(far).toEqual([...far].sort((a, b) => a - b));
  await server.call('POST', '/collections/stays/documents', [{ id: -1, name: 'Somebody else', size: 99 }]);
  expect(await named()).toEqual(['identity', 'kept']);
  const answer = await server.call<{ documents: { id: number }[]; plan: { step: string } }>('POST', '/query', {
    pipeline: 'from stays\nwhere fold(@.name) == "somebody else"',
    useIndex: 'kept',
  });
  expect([answer.body.plan.step, answer.body.documents]).toEqual(['index range scan', [{ id: -1, name: 'Somebody else', size: 99 }]]);
});

test.each<[string, object, number, RegExp]>([
  ['a key that cannot be read', { keys: ['@.name >'] }, 422, /./],
  ['no key', { keys: [] }, 400, /./],
  [
    'values that repeat',
    { keys: ['@.size'], unique: true },
    422,
    /An index on @\.size cannot be unique: more than one document has 0\. Nothing was built\./,
  ],
  ['a name that is taken', { name: 'kept', keys: ['@.size'] }, 409, /has an index kept already, on fold\(@\.name\)/],
])('an index is refused for %s', async (_, body, status, told) => {
  const response = await build(body);
  expect(response.status).toBe(status);
  const problem = (await response.json()) as { title: string; detail?: string };
  expect(problem.detail ?? problem.title).toMatch(told);
  expect(await named()).toEqual(['identity', 'kept']);
  expect((await list()).building).toEqual([]);
});
