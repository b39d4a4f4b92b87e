import type { Response } from 'express';

const progressEveryMs = 150;
/** So much may lie here for a reader that does not keep up; events beyond it wait, one of each kind. */
const mostWaitingBytes = 64 * 1024;

/**
 * Server-sent events (WHATWG HTML, 9.2); progress is sent now and then, not each time. Where the reader does not keep
 * up, the last of like events waits for all of them, so that what waits stays small.
 */
export class EventStream {
  private last = 0;
  private readonly response: Response;
  /** What waits for the reader, the last of each kind. */
  private readonly waiting = new Map<string, string>();

  constructor(response: Response) {
    this.response = response;
    response.status(200).type('text/event-stream').setHeader('Cache-Control', 'no-store');
    response.flushHeaders();
    response.on('drain', () => this.catchUp());
  }

  progress(progress: object): void {
    const now = Date.now();
    if (now - this.last < progressEveryMs) return;
    this.last = now;
    this.send('progress', progress);
  }

  send(event: string, data: object): void {
    const text = `event: ${event}\ndata: ${JSON.stringify(data)}\n\n`;
    if (this.isBehind) this.waiting.set(event === 'progress' ? event : text, text);
    else this.response.write(text);
  }

  comment(text: string): void {
    if (!this.isBehind) this.response.write(`: ${text}\n\n`);
  }

  private get isBehind(): boolean {
    return this.waiting.size > 0 || this.response.writableLength > mostWaitingBytes;
  }

  private catchUp(): void {
    for (const [key, text] of this.waiting) {
      if (this.response.writableLength > mostWaitingBytes) return;
      this.waiting.delete(key);
      this.response.write(text);
    }
  }
}
