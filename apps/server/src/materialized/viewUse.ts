import type { StoredView, ViewUse } from '../storage/rooms/materialized.ts';

/** What was read is written down so often. */
const writtenEveryMs = 5_000;

/** How often views are read, and how many documents need not be: counted here, and written down now and then. */
export class ViewUses {
  private readonly counts = new Map<string, ViewUse>();
  private readonly write: (used: readonly ViewUse[]) => Promise<void>;
  private timer: NodeJS.Timeout | undefined;

  constructor(write: (used: readonly ViewUse[]) => Promise<void>) {
    this.write = write;
  }

  begin(): void {
    this.timer = setInterval(() => void this.flush(), writtenEveryMs).unref();
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.flush();
  }

  /** @param views those that an answer has read, each with the documents that were spared by it */
  add(views: readonly (readonly [name: string, documents: number])[]): void {
    const at = new Date().toISOString();
    for (const [name, documents] of views) {
      const before = this.of(name);
      this.counts.set(name, { name, uses: before.uses + 1, saved: before.saved + documents, at });
    }
  }

  /** What is written down of a view, with what is not yet. */
  with({ name, saved, uses, lastUsedAt }: StoredView): Pick<StoredView, 'saved' | 'uses' | 'lastUsedAt'> {
    const since = this.of(name);
    return { saved: saved + since.saved, uses: uses + since.uses, lastUsedAt: since.at ?? lastUsedAt };
  }

  private of(name: string): Omit<ViewUse, 'at'> & { readonly at: string | null } {
    return this.counts.get(name) ?? { name, uses: 0, saved: 0, at: null };
  }

  private async flush(): Promise<void> {
    const used = [...this.counts.values()];
    if (used.length === 0) return;
    this.counts.clear();
    // It is a figure: where it cannot be written, nothing else is to fail.
    await this.write(used).catch(() => undefined);
  }
}
