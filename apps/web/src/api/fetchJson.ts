import { problemText } from './problems.ts';

/** What the server answers outside of RTK Query, where headers are wanted or nothing is kept. @throws Error in words to be shown */
export async function fetchJson<T>(url: string, init?: RequestInit): Promise<{ readonly value: T; readonly headers: Headers }> {
  const response = await fetch(url, init).catch(() => {
    throw new Error(problemText({ status: 'FETCH_ERROR' }));
  });
  const value = (await response.json().catch(() => undefined)) as T | undefined;
  if (!response.ok || value === undefined) throw new Error(problemText({ data: value }));
  return { value, headers: response.headers };
}
