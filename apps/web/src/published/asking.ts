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
}
export interface Refusal {
  readonly status: number;
  readonly detail: string;
  readonly faults: readonly Fault[];
}
export type Told<T> = { readonly value: T } | { readonly refusal: Refusal };

/** What stands before `/p/` in the address of the page: the database, where one is named. */
const prefix = (): string => /^(.*?)\/p\//.exec(location.pathname)?.[1] ?? '';
export const addressOf = (name: string, query = ''): string => `${prefix().replace(/^\/d\//, '/api/databases/').replace(/^$/, '/api')}/published/${encodeURIComponent(name)}${query}`; // prettier-ignore

const keyPlace = (name: string): string => `published-key ${prefix()} ${name}`;
export const keptKey = (name: string): string => sessionStorage.getItem(keyPlace(name)) ?? '';
export const keepKey = (name: string, key: string): void => sessionStorage.setItem(keyPlace(name), key);

async function get(name: string, address: string): Promise<Response> {
  const key = keptKey(name);
  return fetch(address, key === '' ? {} : { headers: { authorization: `Bearer ${key}` } });
}

async function told<T>(name: string, address: string, read: (response: Response) => Promise<T>): Promise<Told<T>> {
  try {
    const response = await get(name, address);
    if (response.ok) return { value: await read(response) };
    const problem = (await response.json().catch(() => ({}))) as { detail?: string; title?: string; faults?: Fault[] };
    return {
      refusal: { status: response.status, detail: problem.detail ?? problem.title ?? response.statusText, faults: problem.faults ?? [] },
    };
  } catch {
    return { refusal: { status: 0, detail: 'There is no answer: is the network there?', faults: [] } };
  }
}

export const askForm = (name: string): Promise<Told<PublishedForm>> =>
  told(name, addressOf(name, '/form'), (response) => response.json() as Promise<PublishedForm>);

export const askRows = (name: string, address: string): Promise<Told<Rows>> =>
  told(name, address, async (response) => ({
    ...((await response.json()) as Omit<Rows, 'age' | 'approximate' | 'asOf'>),
    age: Number(response.headers.get('age') ?? 0),
    ...approximateOf(response.headers),
    ...(response.headers.has('zesty-sieve-as-of') && { asOf: response.headers.get('zesty-sieve-as-of')! }),
  }));

/** Of the header by which an answer says that it is not exact. */
export function approximateOf(headers: Headers): Pick<Rows, 'approximate'> {
  const given = headers.get('zesty-sieve-approximate');
  if (given === null) return {};
  const effort = Number(/effort=(\d+)/.exec(given)?.[1] ?? 0).toLocaleString('en');
  const recall = /recall=([\d.]+)/.exec(given)?.[1];
  const found = recall === undefined ? '' : `, which found ${(Number(recall) * 100).toFixed(1)} % of the true best when it was measured`;
  return { approximate: `approximate: the best of ${effort} candidates${found}` };
}

/** Fetches all of an answer in a format and gives it to be saved. */
export async function download(name: string, query: string, format: string): Promise<string | undefined> {
  const parameters = new URLSearchParams(query);
  parameters.set('format', format);
  const response = await get(name, addressOf(name, `?${parameters.toString()}`)).catch(() => undefined);
  if (response?.ok !== true) return 'It could not be fetched.';
  const link = document.createElement('a');
  link.href = URL.createObjectURL(await response.blob());
  link.download = `${name}.${format}`;
  link.click();
  URL.revokeObjectURL(link.href);
  return undefined;
}
