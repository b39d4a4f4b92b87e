import type { Request, Response } from 'express';
import { problemFrom } from './problemHandler.ts';
import { EventStream } from './eventStream.ts';

/** Whether progress is asked for, as server-sent events. */
export function wantsEvents({ headers }: Request): boolean {
  return (headers.accept ?? '').includes('text/event-stream');
}

/** Answers with what long work gives; as events with its progress where that is asked for (`Accept: text/event-stream`). */
export async function asJob<T extends object>(
  request: Request,
  response: Response,
  work: (onProgress: (progress: object) => void) => Promise<T>,
): Promise<void> {
  if (!wantsEvents(request)) {
    response.json(await work(() => undefined));
    return;
  }
  const events = new EventStream(response);
  try {
    events.send('done', await work((progress) => events.progress(progress)));
  } catch (error) {
    events.send('problem', problemFrom(error));
  }
  response.end();
}
