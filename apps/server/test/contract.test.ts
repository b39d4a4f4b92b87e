import { routes, type Route } from '@zesty-sieve/contract';
import { calls, remember } from './everyCall.ts';
import { TestServer } from './server.ts';

let server: TestServer;
afterAll(() => server.remove());

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
  remember(name, answer.body);
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
