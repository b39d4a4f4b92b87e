import type { Problem } from '@zesty-sieve/contract';
import { createParser } from 'eventsource-parser';

interface JobEvents<P> {
  readonly signal: AbortSignal;
  readonly onProgress: (progress: P) => void;
}

/** A job that came to no end, with the problem that the server tells. */
export class JobFailed extends Error {
  readonly data: Partial<Problem>;
  constructor(data: Partial<Problem>) {
    super(data.detail ?? data.title ?? 'The call failed.');
    this.data = data;
  }
}

/** Posts what takes long, and follows how far it is (server-sent events); to let go of it ends it. @throws JobFailed */
export async function followJob<T, P>(url: string, body: object, { signal, onProgress }: JobEvents<P>): Promise<T> {
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json', Accept: 'text/event-stream' },
    body: JSON.stringify(body),
    signal,
  });
  if (!response.ok || response.body === null) throw new JobFailed((await response.json().catch(() => ({}))) as Partial<Problem>);
  let done: T | undefined;
  const parser = createParser({
    onEvent: ({ event, data }) => {
      const told: unknown = JSON.parse(data);
      if (event === 'progress') onProgress(told as P);
      else if (event === 'done') done = told as T;
      else if (event === 'problem') throw new JobFailed(told as Partial<Problem>);
    },
  });
  const text = response.body.pipeThrough(new TextDecoderStream());
  const reader = text.getReader();
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) parser.feed(piece.value);
  if (done === undefined) throw new JobFailed({ detail: 'The server ended before the work did.' });
  return done;
}
