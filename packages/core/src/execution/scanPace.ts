import { milliseconds } from '../values/clock.ts';

const fewestAtFirst = 64;
/** What takes longer is cut into smaller parts, since others wait for it. */
const longMs = 0.5;

/** How many documents a scan goes through at a time: few at first, so that a run that ends soon reads little, and fewer where each takes long. */
export class ScanPace {
  size: number;
  private readonly most: number;
  private since = milliseconds();

  constructor(most: number) {
    this.most = most;
    this.size = Math.min(fewestAtFirst, most);
  }

  /** Is told when a part begins. */
  begin(): void {
    this.since = milliseconds();
  }

  /** Is told when it has been gone through. */
  end(): void {
    const isLong = milliseconds() - this.since > longMs;
    this.size = isLong ? Math.max(1, this.size >>> 1) : Math.min(this.size * 2, this.most);
  }
}
