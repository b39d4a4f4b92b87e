import { Agent, request } from 'node:http';
import { Random } from './random.ts';
import { Served } from './served.ts';

const documents = 50_000;
const written = 2_000;
const atOnce = 12;
const sampleMs = 20_000;
/** From here on what is held after collection is to stay. */
const settledMs = 180_000;
const mayGrow = 1.1;
const ndjson = 'application/x-ndjson';

const mb = (bytes: number) => `${(bytes / 1024 / 1024).toFixed(0)} MB`;
const document = (id: string, n: number) => ({ id, n, part: n % 40, text: `hut ${n % 977}`, tags: [`t${n % 7}`, `t${n % 11}`] });
const lines = (from: number, count: number) => Array.from({ length: count }, (_, i) => JSON.stringify(document(`s${from + i}`, from + i))).join('\n'); // prettier-ignore

async function filled(server: Served): Promise<void> {
  await server.call('POST', '/collections', { name: 'c' });
  for (let from = 0; from < documents; from += 10_000) await server.call('POST', '/collections/c/import', lines(from, 10_000), ndjson);
  for (const key of ['@.part', '@.text']) await server.call('POST', '/collections/c/indexes', { keys: [key] });
}

/**
 * Everything that people do, at once and for long: memory after collection is to stay where it is.
 * @returns what went wrong; undefined where nothing did
 */
export async function soak(minutes: number, seed: number, say: (line: string) => void): Promise<string | undefined> {
  const server = new Served();
  await server.start('weighed');
  await filled(server);
  const random = new Random(seed);
  const failures = new Map<string, number>();
  let requests = 0;
  let cancelled = 0;
  let peak = 0;
  const started = Date.now();
  const until = started + minutes * 60_000;

  const expect = async (title: string, work: Promise<{ status: number }>, ...allowed: number[]): Promise<void> => {
    requests++;
    const status = await work.then((answer) => answer.status, (error: Error) => `${error.message} ${String(error.cause)}`); // prettier-ignore
    if (typeof status === 'number' && (status < 300 || allowed.includes(status))) return;
    failures.set(`${title}: ${status}`, (failures.get(`${title}: ${status}`) ?? 0) + 1);
  };
  const query = (pipeline: string, more: object = {}) => server.call('POST', '/query', { pipeline, ...more });
  /** Asks, and goes away amid it. */
  const leaving = async (method: string, path: string, body: string | undefined, type: string, afterMs: number): Promise<void> => {
    requests++;
    cancelled++;
    const abort = new AbortController();
    setTimeout(() => abort.abort(), afterMs);
    await fetch(`${server.address}/api${path}`, {
      method,
      body,
      headers: body === undefined ? {} : { 'content-type': type },
      signal: abort.signal,
    })
      .then((response) => response.arrayBuffer())
      .catch(() => undefined);
  };
  /** Half of an upload, and then nothing more. */
  const disconnecting = (): Promise<void> =>
    new Promise((resolve) => {
      requests++;
      const sending = request(`${server.address}/api/collections/c/import`, {
        method: 'POST',
        headers: { 'content-type': ndjson, 'content-length': 1e6 },
      });
      sending.on('error', () => resolve()).on('close', () => resolve());
      sending.write(lines(0, 1_000), () => sending.destroy());
    });
  /** What a window asks for when it is opened, and its stream for a while. */
  const opening = async (): Promise<void> => {
    const abort = new AbortController();
    const stream = fetch(`${server.address}/api/events`, { signal: abort.signal }).then((response) => response.text(), () => undefined); // prettier-ignore
    for (const path of [
      '/collections',
      '/pipelines',
      '/runs',
      '/collections/c/shape',
      '/collections/c/indexes',
      '/settings',
      '/collections/c/documents',
    ])
      await expect(path, server.call('GET', path));
    abort.abort();
    await stream.catch(() => undefined);
    requests++;
  };

  let fresh = 0;
  const one = async (): Promise<void> => {
    const at = random.below(documents);
    const id = `w${random.below(written)}`;
    await random.weighed<() => Promise<void>>([
      [20, () => () => expect('a document', server.call('GET', `/collections/c/documents/s${at}`), 404)],
      [20, () => () => expect('a lookup', query(`from c\nwhere @.id == "s${at}"`))],
      [8, () => () => expect('by index', query(`from c\nwhere @.part == ${at % 40}\norder by @.n desc\nlimit 50`))],
      [3, () => () => expect('a group', query('from c\ngroup by @.text measure n = count(), s = sum(@.n)'))],
      [2, () => () => expect('an order', query('from c\norder by @.text, @.n desc'), 422)],
      [2, () => () => expect('a join', query('from c\nwhere @.part == 3\njoin c as o on o.id == @.id\nlimit 200'))],
      [8, () => () => expect('a put', server.call('PUT', `/collections/c/documents/${id}`, document(id, fresh++)))],
      [4, () => () => expect('a patch', server.call('PATCH', `/collections/c/documents/${id}`, { n: fresh++ }, 'application/merge-patch+json'), 404)],
      [4, () => () => expect('a delete', server.call('DELETE', `/collections/c/documents/${id}`), 404)],
      [2, () => () => expect('an import', server.call('POST', '/collections/c/import?onDuplicate=replace', lines(at - (at % 500), 500), ndjson))],
      [2, () => () => expect('a change', server.call('POST', '/changes', { change: `from c\nwhere @.part == ${at % 40} && @.n < 20000\nset @.n = @.n + 1` }))], // prettier-ignore
      [1, () => async () => {
        await expect('an index', server.call('POST', '/collections/c/indexes', { name: 'passing', keys: ['@.tags[*]'] }), 409, 422);
        await expect('a drop', server.call('DELETE', '/collections/c/indexes/passing'), 404);
      }], // prettier-ignore
      [3, () => () => leaving('POST', '/query', JSON.stringify({ pipeline: 'from c\njoin c as o on o.part == @.part\ngroup all measure n = count()' }), 'application/json', random.below(300))], // prettier-ignore
      [2, () => () => leaving('POST', '/collections/c/import?onDuplicate=replace', lines(0, 5_000), ndjson, random.below(200))],
      [2, () => () => leaving('GET', '/collections/c/export', undefined, '', random.below(100))],
      [2, () => disconnecting],
      [2, () => opening],
      [1, () => () => expect('a file', server.call('GET', '/collections/c/export?format=csv'), 503)],
    ])(); // prettier-ignore
  };

  const held: { readonly ms: number; readonly bytes: number }[] = [];
  const weigh = async (): Promise<void> => {
    const { main, storage, engine } = await server.collected();
    const ms = Date.now() - started;
    const bytes = main + storage + engine;
    held.push({ ms, bytes });
    say(`${(ms / 60_000).toFixed(1).padStart(5)} min: ${requests.toLocaleString('en')} requests; after collection ${mb(bytes)} (HTTP ${mb(main)}, storage ${mb(storage)}, engine ${mb(engine)}); ${mb(server.residentBytes)} of the process`); // prettier-ignore
  };
  try {
    const loops = Array.from({ length: atOnce }, async () => {
      while (Date.now() < until) await one();
    });
    const watching = setInterval(() => (peak = Math.max(peak, server.residentBytes)), 500);
    while (Date.now() < until) {
      await new Promise((resolve) => setTimeout(resolve, Math.min(sampleMs, until - Date.now())));
      await weigh();
    }
    await Promise.all(loops);
    clearInterval(watching);
    const settled = held.filter(({ ms }) => ms >= Math.min(settledMs, (minutes * 60_000) / 3)).map(({ bytes }) => bytes);
    const [least, most] = [Math.min(...settled), Math.max(...settled)];
    for (const [failure, times] of failures) say(`  failed ${times} times: ${failure}`);
    say(`${requests.toLocaleString('en')} requests, ${cancelled.toLocaleString('en')} of them left by whoever asked, ${[...failures.values()].reduce((sum, n) => sum + n, 0)} failures; peak memory ${mb(peak)}; after collection ${mb(least)} to ${mb(most)} from minute ${Math.min(3, minutes / 3).toFixed(1)} on`); // prettier-ignore
    if (failures.size > 0) return 'requests failed';
    return most > settled[0] * mayGrow ? `memory after collection grew from ${mb(settled[0])} to ${mb(most)}` : undefined;
  } finally {
    await server.remove();
  }
}

export interface Looked {
  /** How long each took, in milliseconds, sorted. */
  readonly times: readonly number[];
  readonly perSecond: number;
  /** Heavy groups that ran meanwhile. */
  readonly groups: number;
}

/**
 * Lookups by identity over many connections, while a heavy group runs. Whoever has found something reads it for up to
 * `readingMs` before the next.
 */
export async function lookups(connections: number, each: number, readingMs: number): Promise<Looked> {
  const server = new Served();
  await server.start();
  try {
    await filled(server);
    // The measuring shall take as little as can be of the machine that is measured.
    const agent = new Agent({ keepAlive: true, maxSockets: connections });
    const look = (i: number): Promise<void> => {
      const body = JSON.stringify({ pipeline: `from c\nwhere @.id == "s${i}"` });
      const { promise, resolve, reject } = withResolvers();
      const sent = request(
        `${server.address}/api/query`,
        { method: 'POST', agent, headers: { 'Content-Type': 'application/json' } },
        (answer) => {
          // prettier-ignore
          answer.resume().on('end', () => (answer.statusCode === 200 ? resolve() : reject(new Error(`a lookup gives ${answer.statusCode}`))));
        },
      );
      sent.on('error', reject).end(body);
      return promise;
    };
    for (let i = 0; i < 1_000; i++) await look(i);
    let isOver = false;
    let groups = 0;
    const heavy = (async () => {
      while (!isOver) {
        await server.call('POST', '/query', { pipeline: 'from c\nunnest @.tags as t\ncompute u = concat(@.text, @.t)\ngroup by @.u, @.part measure n = count(), s = sum(@.n), m = median(@.n)', guards: { timeMs: 60_000, memoryBytes: 1e9 } }); // prettier-ignore
        groups++;
      }
    })();
    while (groups < 3) await new Promise((resolve) => setTimeout(resolve, 100));
    const times: number[] = [];
    const random = new Random(1);
    const begun = performance.now();
    await Promise.all(
      Array.from({ length: connections }, async () => {
        // They do not come all in one moment.
        await new Promise((resolve) => setTimeout(resolve, random.below(1_000)));
        for (let i = 0; i < each; i++) {
          const started = performance.now();
          await look(random.below(documents));
          times.push(performance.now() - started);
          await new Promise((resolve) => setTimeout(resolve, random.below(readingMs)));
        }
      }),
    );
    const seconds = (performance.now() - begun) / 1_000;
    isOver = true;
    await heavy;
    agent.destroy();
    return { times: times.sort((a, b) => a - b), perSecond: times.length / seconds, groups };
  } finally {
    await server.remove();
  }
}

/** A promise and what settles it, as ES2024 has it. */
function withResolvers() {
  let resolve!: () => void;
  let reject!: (error: Error) => void;
  const promise = new Promise<void>((yes, no) => ((resolve = yes), (reject = no)));
  return { promise, resolve, reject };
}
