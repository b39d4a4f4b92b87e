import type { PublishedForm } from '@zesty-sieve/contract';

/** What the page asks of the server: a publication's form, and its rows. */

export interface Fault {
  readonly parameter: string;
  readonly message: string;
}
export interface Rows {
  readonly documents: readonly unknown[];
  readonly hasMore: boolean;
  readonly next?: string;
  /** Seconds since the answer was worked out. */
  readonly age: number;
  /** When kept rows were made that it rests on, where they are out of date. */
  readonly asOf?: string;
  /** In words, where rows that belong to it may be lacking. */
  readonly approximate?: string;
  /** The version of the answer. */
  readonly tag?: string;
}
export interface Refusal {
  readonly status: number;
  readonly detail: string;
  readonly faults: readonly Fault[];
  /** Seconds after which it may be asked again, where there is only too much to do. */
  readonly retryAfter?: number;
}
export type Told<T> = { readonly value: T } | { readonly refusal: Refusal };

/** What stands before `/p/` in the address of the page: the database, where one is named. */
const prefix = (): string => /^(.*?)\/p\//.exec(location.pathname)?.[1] ?? '';
export const addressOf = (name: string, query = ''): string => `${prefix().replace(/^\/d\//, '/api/databases/').replace(/^$/, '/api')}/published/${encodeURIComponent(name)}${query}`; // prettier-ignore

const keyPlace = (name: string): string => `published-key ${prefix()} ${name}`;
export const keptKey = (name: string): string => sessionStorage.getItem(keyPlace(name)) ?? '';
export const keepKey = (name: string, key: string): void => sessionStorage.setItem(keyPlace(name), key);

interface Asking<T> {
  readonly name: string;
  readonly address: string;
  readonly read: (response: Response) => Promise<T>;
  readonly signal?: AbortSignal | undefined;
}

async function told<T>({ name, address, read, signal }: Asking<T>): Promise<Told<T>> {
  try {
    const key = keptKey(name);
    const headers = new Headers(key === '' ? undefined : { authorization: `Bearer ${key}` });
    const response = await fetch(address, { headers, ...(signal !== undefined && { signal }) });
    if (response.ok) return { value: await read(response) };
    const problem = (await response.json().catch(() => ({}))) as { detail?: string; title?: string; faults?: Fault[] };
    const detail = problem.detail ?? problem.title ?? response.statusText;
    const retryAfter = Number(response.headers.get('retry-after') ?? NaN);
    return {
      refusal: { status: response.status, detail, faults: problem.faults ?? [], ...(retryAfter >= 0 && { retryAfter }) },
    };
  } catch {
    return { refusal: { status: 0, detail: 'There is no answer: is the network there?', faults: [] } };
  }
}

export const askForm = (name: string): Promise<Told<PublishedForm>> =>
  told({ name, address: addressOf(name, '/form'), read: (response) => response.json() as Promise<PublishedForm> });

export const askRows = (name: string, address: string, signal?: AbortSignal): Promise<Told<Rows>> =>
  told({ name, address, signal, read: rowsOf });

async function rowsOf(response: Response): Promise<Rows> {
  const { headers } = response;
  return {
    ...((await response.json()) as Pick<Rows, 'documents' | 'hasMore' | 'next'>),
    age: Number(headers.get('age') ?? 0),
    ...approximateOf(headers),
    ...(headers.has('zesty-sieve-as-of') && { asOf: headers.get('zesty-sieve-as-of')! }),
    ...(headers.has('etag') && { tag: headers.get('etag')! }),
  };
}

/** Of the header by which an answer says that it is not exact. */
export function approximateOf(headers: Headers): Pick<Rows, 'approximate'> {
  const given = headers.get('zesty-sieve-approximate');
  if (given === null) return {};
  const effort = Number(/effort=(\d+)/.exec(given)?.[1] ?? 0).toLocaleString('en');
  const recall = /recall=([\d.]+)/.exec(given)?.[1];
  const found = recall === undefined ? '' : `, which found ${(Number(recall) * 100).toFixed(1)} % of the true best when it was measured`;
  return { approximate: `approximate: the best of ${effort} candidates${found}` };
}
