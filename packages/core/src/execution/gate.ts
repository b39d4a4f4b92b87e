/**
 * Lets many runs read at a time, or one change write. A run may pause between batches; a change waits until the
 * runs before it have ended, and runs that come later wait for it, so that each sees all of it or nothing.
 */
export class Gate {
  private readers = 0;
  private readonly waiting: { writes: boolean; open: () => void }[] = [];
  private writing = false;

  async read<T>(work: () => Promise<T>): Promise<T> {
    if (this.writing || this.waiting.length > 0) await new Promise<void>((open) => this.waiting.push({ writes: false, open }));
    else this.readers++;
    try {
      return await work();
    } finally {
      this.readers--;
      this.admit();
    }
  }

  async write<T>(work: () => T): Promise<T> {
    if (this.writing || this.readers > 0 || this.waiting.length > 0) {
      await new Promise<void>((open) => this.waiting.push({ writes: true, open }));
    } else {
      this.writing = true;
    }
    try {
      return work();
    } finally {
      this.writing = false;
      this.admit();
    }
  }

  /** Lets in whoever may go now; what they will be counted as is set before they wake. */
  private admit(): void {
    while (this.waiting.length > 0 && !this.writing) {
      const next = this.waiting[0]!;
      if (next.writes && this.readers > 0) return;
      this.waiting.shift();
      if (next.writes) this.writing = true;
      else this.readers++;
      next.open();
    }
  }
}
