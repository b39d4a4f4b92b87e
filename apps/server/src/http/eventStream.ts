import type { Response } from 'express';

const progressEveryMs = 150;

/** Server-sent events (WHATWG HTML, 9.2); progress is sent now and then, not each time. */
export class EventStream {
  private last = 0;
  private readonly response: Response;

  constructor(response: Response) {
    this.response = response;
    response.status(200).type('text/event-stream').setHeader('Cache-Control', 'no-store');
    response.flushHeaders();
  }

  progress(progress: object): void {
    const now = Date.now();
    if (now - this.last < progressEveryMs) return;
    this.last = now;
    this.send('progress', progress);
  }

  send(event: string, data: unknown): void {
    this.response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  }
}
