import { calls, remember, type Call } from './everyCall.ts';
import { TestServer } from './server.ts';

/**
 * Every call of the API in forms that it was not made for: each part of its body in turn is left out, or is something else; its address
 * is spoilt. Whatever comes, it is answered, and as a problem that says what is wrong, never as a failure of ours.
 */

let server: TestServer;
beforeAll(async () => {
  server = await new TestServer().start();
});
afterAll(() => server.remove());

type Path = readonly (string | number)[];
const isContainer = (value: unknown): value is Record<string, unknown> | unknown[] => typeof value === 'object' && value !== null;

function pathsIn(value: unknown, path: Path = []): Path[] {
  const inner = isContainer(value) ? Object.entries(value).flatMap(([key, one]) => pathsIn(one, [...path, Array.isArray(value) ? Number(key) : key])) : []; // prettier-ignore
  return [path, ...inner];
}

const left = Symbol('left out');
function replaced(value: unknown, [key, ...rest]: Path, by: unknown): unknown {
  if (key === undefined) return by;
  const copied = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }) as Record<string | number, unknown>;
  const next = replaced(copied[key], rest, by);
  if (next !== left) copied[key] = next;
  else if (Array.isArray(copied)) copied.splice(key as number, 1);
  else delete copied[key];
  return copied;
}

const deep = JSON.parse('['.repeat(400) + ']'.repeat(400)) as unknown;
const others: readonly unknown[] = [left, null, true, -1, 1.5, 1e308, '', 'x', '\u0000', '\ud800', 'ab'.repeat(40_000), [], [null], [[1]], {}, { a: { b: 1 } }, JSON.parse('{"__proto__": {"x": 1}}'), deep]; // prettier-ignore

/** Texts that are cut off, or have something in them that does not belong there. */
function spoiltText(text: string): string[] {
  const middle = text.length >> 1;
  return [
    '',
    text.slice(0, 1),
    text.slice(0, middle),
    text.slice(0, -1),
    `\ufeff${text}`,
    `${text}${text}`,
    text.replace(/"/g, "'"),
    text.slice(0, middle) + '\u0000' + text.slice(middle),
    '['.repeat(5_000),
  ];
}

function spoiltAddresses(path: string): string[] {
  const [address = '', query] = path.split('?');
  const parts = address.split('/');
  const odd = ['%00', '..%2f..', '%E0%A4%A', 'x'.repeat(4_000), '%20', '__proto__', '-1'];
  const inPath = parts.flatMap((part, i) => (i < 2 || part === '' ? [] : odd.map((one) => parts.with(i, one).join('/') + (query === undefined ? '' : `?${query}`)))); // prettier-ignore
  const names = [...new URLSearchParams(query ?? '').keys()];
  const values = ['', '-1', '1e999', 'x'.repeat(3_000), '%00', 'null', '[1]'];
  return [...inPath, ...names.flatMap((name) => values.map((value) => `${address}?${name}=${value}`)), `${address}?surprise=1&surprise=2`];
}

function spoilt({ path, body, headers }: Call): Call[] {
  const addresses = spoiltAddresses(path).map((one) => ({ path: one, body, headers }));
  const bodies = typeof body === 'string' ? spoiltText(body) : body === undefined ? [{ surprise: 1 }] : [...pathsIn(body).flatMap((at) => others.map((by) => replaced(body, at, by))).filter((one) => one !== left), ...spoiltText(JSON.stringify(body))]; // prettier-ignore
  const json = { 'content-type': 'application/json' };
  return [
    ...addresses,
    ...bodies.map((one) => ({ path, body: one, headers: typeof one === 'string' && typeof body !== 'string' ? json : headers })),
    ...(body === undefined ? [] : [{ path, body: typeof body === 'string' ? body : JSON.stringify(body), headers: { 'content-type': 'text/odd' } }]),
  ].map(({ headers: given, ...call }) => ({ ...call, ...(given !== undefined && { headers: given }) })); // prettier-ignore
}

/** What a call is answered with where that is wrong; it is waited for twenty seconds. */
async function wrongWith(method: string, call: Call): Promise<object | undefined> {
  const raw = typeof call.body === 'string';
  const response = await fetch(`${server.address}/api${call.path}`, {
    method,
    headers: { ...(call.body !== undefined && !raw && { 'content-type': 'application/json' }), ...call.headers },
    ...(call.body !== undefined && { body: raw ? (call.body as string) : JSON.stringify(call.body) }),
    signal: AbortSignal.timeout(20_000),
  }).catch((error: unknown) => error as Error);
  const asked = { method, path: call.path.slice(0, 200), body: JSON.stringify(call.body)?.slice(0, 300) };
  if (response instanceof Error) return { ...asked, ended: String(response) };
  const text = await response.text();
  const { status } = response;
  if (status < 400) return undefined;
  const type = response.headers.get('content-type') ?? '';
  const told = type.startsWith('application/problem+json') ? (JSON.parse(text) as { type: string; detail?: string; title?: string }) : undefined;
  const isTold = told !== undefined && told.type.startsWith('/problems/') && (told.detail ?? told.title ?? '').length > 5;
  return status < 500 && isTold && told.type !== '/problems/internal' ? undefined : { ...asked, status, text: text.slice(0, 300) };
} // prettier-ignore

test.each(calls)('%s answers whatever it is asked', async (name, call) => {
  const method = name.split(' ')[0]!.toUpperCase();
  const made = call();
  const { body } = await server.call(method, made.path, made.body, made.headers);
  if (typeof body === 'object') remember(name, body);
  const wrong: object[] = [];
  // What removes is asked once: nothing would be left to ask of.
  const tries = method === 'DELETE' ? spoiltAddresses(made.path).map((path) => ({ path })) : spoilt(made).filter(({ body: given }) => method !== 'GET' || given === undefined); // prettier-ignore
  for (const one of tries) {
    const found = await wrongWith(method, one);
    if (found !== undefined) wrong.push(found);
  }
  expect(wrong).toEqual([]);
});

test('and nothing of that was written to the log as a failure', () => {
  expect(server.said).toBe('');
});
