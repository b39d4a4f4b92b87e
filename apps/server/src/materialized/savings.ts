/** What was spared is written down so often. */
const writtenEveryMs = 5_000;

type Saved = readonly (readonly [name: string, documents: number])[];

/** Documents that need not be read, since a view answered: counted here, and written down now and then. */
export class Savings {
  private readonly counts = new Map<string, number>();
  private readonly write: (saved: Saved) => Promise<void>;
  private timer: NodeJS.Timeout | undefined;

  constructor(write: (saved: Saved) => Promise<void>) {
    this.write = write;
  }

  begin(): void {
    this.timer = setInterval(() => void this.flush(), writtenEveryMs).unref();
  }

  async close(): Promise<void> {
    clearInterval(this.timer);
    await this.flush();
  }

  add(views: Saved): void {
    for (const [name, documents] of views) this.counts.set(name, this.of(name) + documents);
  }

  /** Those that are not written down yet. */
  of(name: string): number {
    return this.counts.get(name) ?? 0;
  }

  private async flush(): Promise<void> {
    const saved = [...this.counts];
    if (saved.length === 0) return;
    this.counts.clear();
    // It is a figure: where it cannot be written, nothing else is to fail.
    await this.write(saved).catch(() => undefined);
  }
}
