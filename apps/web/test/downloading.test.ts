import { fetchAllRows } from '../src/published/download.ts';

type Part = { rows: number; status?: number; tag?: string; retryAfter?: string };
const asked: { address: string; key: string | null }[] = [];
const usual = { fetch: globalThis.fetch };

/** A server that gives these parts one after another, each with the address of the next; the last one is given again to whoever asks on. */
function serve(parts: readonly Part[]): void {
  let made = 0;
  globalThis.fetch = ((address: string, { headers, signal }: RequestInit) => {
    if (signal?.aborted === true) return Promise.reject(new Error('aborted'));
    const part = parts[Math.min(asked.length, parts.length - 1)]!;
    asked.push({ address, key: new Headers(headers).get('authorization') });
    const { rows, status = 200, tag = '"1"', retryAfter } = part;
    const more = asked.length < parts.length && parts[asked.length]!.rows > 0;
    const documents = Array.from({ length: rows }, () => ({ n: made++ }));
    const body = status === 200 ? { documents, hasMore: more, ...(more && { next: `/next/${made}` }) } : { detail: 'too much' };
    return Promise.resolve(
      new Response(JSON.stringify(body), {
        status,
        headers: { etag: tag, ...(retryAfter !== undefined && { 'retry-after': retryAfter }) },
      }),
    );
  }) as typeof fetch;
}

const told: number[] = [];
const all = (signal = new AbortController().signal) =>
  fetchAllRows('huts', '/api/published/huts?least=3', (rows) => told.push(rows), signal);
beforeAll(() => {
  Object.assign(globalThis, { sessionStorage: { getItem: () => 'secret' }, location: { pathname: '/p/huts' } });
});
beforeEach(() => {
  asked.length = 0;
  told.length = 0;
});
afterAll(() => {
  globalThis.fetch = usual.fetch;
});

test('all parts of an answer are fetched, each from where the last one ended', async () => {
  serve([{ rows: 3 }, { rows: 3 }, { rows: 1 }, { rows: 0 }]);
  expect(await all()).toEqual({ documents: Array.from({ length: 7 }, (_, n) => ({ n })) });
  expect(told).toEqual([3, 6, 7]);
  // The first part once more, to learn whether it is what it was.
  expect(asked.map(({ address }) => address)).toEqual(['/api/published/huts?least=3', '/next/3', '/next/6', '/api/published/huts?least=3']);
  expect(new Set(asked.map(({ key }) => key))).toEqual(new Set(['Bearer secret']));
});

test('rows that changed meanwhile are told, and so is that there are more than a file takes', async () => {
  serve([{ rows: 3 }, { rows: 2 }, { rows: 0, tag: '"2"' }]);
  expect(await all()).toMatchObject({ note: expect.stringContaining('changed while they were fetched') as string });
  asked.length = 0;
  serve(Array.from({ length: 9 }, () => ({ rows: 30_000 })));
  const cut = await all();
  expect('documents' in cut && [cut.documents.length, cut.note]).toEqual([120_000, 'These are the first 120,000 rows; there are more.']);
});

test('a server that has too much to do is waited for, and any other refusal ends it with nothing', async () => {
  serve([{ rows: 2 }, { rows: 1, status: 429, retryAfter: '0' }, { rows: 1, status: 503, retryAfter: '0' }, { rows: 1 }, { rows: 0 }]);
  const waited = await all();
  expect('documents' in waited && waited.documents).toHaveLength(3);
  asked.length = 0;
  serve([{ rows: 2 }, { rows: 1, status: 422 }]);
  expect(await all()).toEqual({ refusal: { status: 422, detail: 'too much', faults: [] } });
  asked.length = 0;
  serve([{ rows: 1, status: 429, retryAfter: '0' }]);
  expect(await all()).toMatchObject({ refusal: { status: 429 } });
  expect(asked).toHaveLength(11);
});

test('one that is stopped gives no rows', async () => {
  serve([{ rows: 2 }, { rows: 2 }]);
  const stop = new AbortController();
  const ended = fetchAllRows('huts', '/api/published/huts', () => stop.abort(), stop.signal);
  expect(await ended).toMatchObject({ refusal: { status: 0 } });
  expect(asked).toHaveLength(1);
});
