import type { Hub } from './hub.ts';
import type { RunToKeep } from './storage/runStore.ts';

/** Runs are written together, so that asking often costs few transactions; a power cut loses what came since. */
const waitMs = 300;
const mostWaiting = 5_000;

/** Takes runs in as they end, and has them kept a little later. */
export class RunLog {
  private readonly hub: Hub;
  private waiting: RunToKeep[] = [];
  private timer: NodeJS.Timeout | undefined;
  private writing: Promise<void> = Promise.resolve();

  constructor(hub: Hub) {
    this.hub = hub;
  }

  add(run: RunToKeep): void {
    // Whoever asks faster than this can be written is not made to wait: the middle of a flood says little.
    if (this.waiting.length >= mostWaiting) return;
    this.waiting.push(run);
    this.timer ??= setTimeout(() => void this.flush().catch(() => undefined), waitMs);
  }

  /** Resolves when all that was added has been written. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    const runs = this.waiting;
    this.waiting = [];
    if (runs.length > 0) {
      this.writing = this.writing.then(async () => {
        await this.hub.storage.call((storage) => storage.keepRuns(runs));
        this.hub.tell({ kind: 'runs' });
      });
    }
    return this.writing;
  }
}
