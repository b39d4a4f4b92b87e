import { network, type DemoCollection } from './network.ts';
import { pipelines, publications } from './pipelines.ts';

/** What is built behind whoever looks around already: a graph of 84,000 vectors takes the better part of a minute. */
const builtBehind = [
  { collection: 'reports', kind: 'place', keys: ['@.position'], name: 'places' },
  { collection: 'reports', kind: 'vector', keys: ['@.textVector'], name: 'meaning' },
] as const;
/** A second database, so that one can switch. */
const lowland = { name: 'lowland-huts', huts: 24 };

export interface LoadOptions {
  /** The address of a running server, such as http://127.0.0.1:4747. */
  readonly address: string;
  /** Multiplies bookings and reports. */
  readonly scale: number;
  readonly tell: (line: string) => void;
  /** Without what is built behind, and the second database. */
  readonly isPlain?: boolean;
}

const documentsAtOnce = 500;
/** What one would have before the first search; the others are left to be found by whoever reads plans. */
const indexes = [{ collection: 'reports', kind: 'text', keys: ['@.headline', '@.text'], language: 'english', name: 'words' }] as const;

/** Puts the demo network into a running server, through the same calls that everyone uses. What is there stays. */
export async function loadDemo({ address, scale, tell, isPlain = false }: LoadOptions): Promise<void> {
  const present = new Set(
    ((await call(address, 'GET', '/collections')) as { collections: { name: string }[] }).collections.map(({ name }) => name),
  );
  const missing = network(scale).filter(({ name }) => !present.has(name));
  for (const collection of missing) await loadCollection(address, collection, tell);
  if (missing.length === 0) return;
  for (const { collection, ...index } of indexes.filter((one) => missing.some(({ name }) => name === one.collection))) {
    await call(address, 'POST', `/collections/${collection}/indexes`, index);
    tell(`${collection}: an index on ${index.keys.join(', ')}`);
  }
  for (const { name, isKept = false, ...body } of pipelines) {
    const kept = isKept ? { materialized: { refresh: 'on change' } } : {};
    await call(address, 'PUT', `/pipelines/${encodeURIComponent(name)}`, { ...body, ...kept });
  }
  for (const { name, ...body } of publications) await call(address, 'PUT', `/publications/${name}`, body);
  tell(`${pipelines.length} saved pipelines, ${publications.length} of them published`);
  if (isPlain) return;
  await loadLowland(address, tell);
  await beginBuilding(address, missing);
}

async function loadLowland(address: string, tell: (line: string) => void): Promise<void> {
  const { databases } = (await call(address, 'GET', '/databases')) as { databases: { name: string }[] };
  const huts = network(1).find(({ name }) => name === 'huts');
  if (huts === undefined || databases.some(({ name }) => name === lowland.name)) return;
  await call(address, 'POST', '/databases', { name: lowland.name });
  const within = `/databases/${lowland.name}`;
  await call(address, 'POST', `${within}/collections`, { name: 'huts' });
  const documents = Array.from({ length: lowland.huts }, (_, i) => {
    const { altitudeM, ...hut } = huts.document(i);
    return { ...hut, altitudeM: Math.round(Number(altitudeM) / 4) };
  });
  await call(address, 'POST', `${within}/collections/huts/documents`, documents);
  await call(address, 'PUT', `${within}/pipelines/All%20huts`, { pipeline: 'from huts\norder by @.name\n', note: 'The huts of another network, in a database of their own.' }); // prettier-ignore
  tell(`${lowland.name}: a second database`);
}

/** Begins to build what is built behind: it goes on when nobody waits for it. */
async function beginBuilding(address: string, loaded: readonly DemoCollection[]): Promise<void> {
  for (const { collection, ...index } of builtBehind.filter((one) => loaded.some(({ name }) => name === one.collection))) {
    const path = `/collections/${collection}/indexes`;
    const asked = new AbortController();
    let isAnswered = false;
    const done = call(address, 'POST', path, index, asked.signal).finally(() => (isAnswered = true));
    done.catch(() => undefined);
    const isBegun = async (): Promise<boolean> => {
      const { building } = (await call(address, 'GET', path)) as { building: { name: string }[] };
      return isAnswered || building.some(({ name }) => name === index.name);
    };
    while (!(await isBegun())) await new Promise((resolve) => setTimeout(resolve, 50));
    if (isAnswered || index.kind === 'place') await done;
    else asked.abort();
  }
}

async function loadCollection(address: string, collection: DemoCollection, tell: (line: string) => void): Promise<void> {
  const { name, count } = collection;
  const started = Date.now();
  await call(address, 'POST', '/collections', { name });
  let sent = 0;
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      let text = '';
      for (const end = Math.min(count, sent + documentsAtOnce); sent < end; sent++)
        text += JSON.stringify(collection.document(sent)) + '\n';
      if (text !== '') controller.enqueue(encoder.encode(text));
      if (count > 20_000 && sent % 10_000 === 0) tell(`${name}: ${sent.toLocaleString('en')} of ${count.toLocaleString('en')}`);
      if (sent >= count) controller.close();
    },
  });
  const response = await fetch(`${address}/api/collections/${name}/import`, {
    method: 'POST',
    headers: { 'content-type': 'application/x-ndjson' },
    body,
    duplex: 'half',
  } as RequestInit & { duplex: 'half' });
  const result = (await response.json()) as { inserted?: number; detail?: string; rejectedCount?: number };
  if (!response.ok) throw new Error(`${name} could not be loaded: ${result.detail}`);
  tell(`${name}: ${result.inserted?.toLocaleString('en')} documents in ${((Date.now() - started) / 1000).toFixed(1)} s`);
}

async function call(address: string, method: string, path: string, body?: unknown, signal?: AbortSignal): Promise<unknown> {
  const response = await fetch(`${address}/api${path}`, {
    method,
    ...(signal && { signal }),
    ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const answer = (await response.json()) as { detail?: string };
  if (!response.ok) throw new Error(`${method} ${path}: ${answer.detail ?? response.status}`);
  return answer;
}
