import { network, type DemoCollection } from './network.ts';
import { pipelines, publications } from './pipelines.ts';

export interface LoadOptions {
  /** The address of a running server, such as http://127.0.0.1:4747. */
  readonly address: string;
  /** Multiplies bookings and reports. */
  readonly scale: number;
  readonly tell: (line: string) => void;
}

const documentsAtOnce = 500;
/** What one would have before the first search; the others are left to be found by whoever reads plans. */
const indexes = [{ collection: 'reports', kind: 'text', keys: ['@.headline', '@.text'], language: 'english', name: 'words' }] as const;

/** Puts the demo network into a running server, through the same calls that everyone uses. What is there stays. */
export async function loadDemo({ address, scale, tell }: LoadOptions): Promise<void> {
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

async function call(address: string, method: string, path: string, body?: unknown): Promise<unknown> {
  const response = await fetch(`${address}/api${path}`, {
    method,
    ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
  });
  const answer = (await response.json()) as { detail?: string };
  if (!response.ok) throw new Error(`${method} ${path}: ${answer.detail ?? response.status}`);
  return answer;
}
