import type { WritePath } from './commits.ts';
import type { RunToKeep } from './storage/runStore.ts';

/** Runs are written together, so that asking often costs few transactions; a power cut loses what came since. */
const waitMs = 300;
const mostWaiting = 5_000;
/** So long a reader waits for what has just ended to be in the list: a writer under way may take much longer. */
const readersWaitMs = 200;
const againMs = 5_000;
/** So long it is told that runs were let go. */
const toldMs = 600_000;

/**
 * Takes runs in as they end, and has them kept a little later. What cannot be written is tried again, and keeps nobody
 * from anything else; it is told.
 */
export class RunLog {
  private readonly path: Pick<WritePath, 'storage' | 'events' | 'log'>;
  private waiting: RunToKeep[] = [];
  private timer: NodeJS.Timeout | undefined;
  private writing: Promise<void> | undefined;
  private dropped = 0;
  private droppedAt = 0;
  private failure: string | null = null;

  constructor(path: Pick<WritePath, 'storage' | 'events' | 'log'>) {
    this.path = path;
  }

  add(run: RunToKeep): void {
    // Whoever asks faster than this can be written is not made to wait: the middle of a flood says little.
    if (this.waiting.length >= mostWaiting) this.letGo(1);
    else this.waiting.push(run);
    this.later(waitMs);
  }

  private later(ms: number): void {
    this.timer ??= setTimeout(() => void this.flush(), ms);
  }

  /** How many runs are not kept, or not yet, since they could not be written, and why; null where all is well. */
  get trouble(): { readonly runs: number; readonly reason: string } | null {
    const isOld = Date.now() - this.droppedAt > toldMs;
    const dropped = isOld ? 0 : this.dropped;
    if (this.failure !== null) return { runs: this.waiting.length + dropped, reason: `${this.failure}; it is tried again` };
    return dropped === 0 ? null : { runs: dropped, reason: 'they came faster than they can be written' };
  }

  private letGo(runs: number): void {
    if (Date.now() - this.droppedAt > toldMs) this.dropped = 0;
    this.dropped += runs;
    this.droppedAt = Date.now();
  }

  /** Resolves when all that was added has been written, or could not be. */
  async flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    await this.writing;
    if (this.waiting.length === 0) return;
    this.writing ??= this.write().finally(() => (this.writing = undefined));
    await this.writing;
  }

  /** For those that read the list: what has been added is in it, unless a writer takes long. */
  async settle(): Promise<void> {
    let timer: NodeJS.Timeout | undefined;
    const longEnough = new Promise<void>((resolve) => (timer = setTimeout(resolve, readersWaitMs)));
    await Promise.race([this.flush(), longEnough]).finally(() => clearTimeout(timer));
  }

  private async write(): Promise<void> {
    const runs = this.waiting;
    this.waiting = [];
    try {
      await this.path.storage.call((storage) => storage.keepRuns(runs));
      this.failure = null;
      this.path.events.tell({ kind: 'runs' });
    } catch (error) {
      if (this.failure === null) this.path.log.warn({ err: error }, 'runs could not be kept');
      this.failure = (error as Error).message;
      const kept = [...runs, ...this.waiting];
      this.waiting = kept.slice(0, mostWaiting);
      if (kept.length > this.waiting.length) this.letGo(kept.length - this.waiting.length);
      this.later(againMs);
    }
  }
}
