const fewestAtFirst = 64;

/**
 * How many documents a scan goes through at a time: few at first, so that a run that ends soon reads little. By counts alone, and not by a
 * clock: what a run holds at most is the same each time.
 */
export class ScanPace {
  size: number;
  private readonly most: number;

  constructor(most: number) {
    this.most = most;
    this.size = Math.min(fewestAtFirst, most);
  }

  /** Is told when a part has been gone through. */
  passed(): void {
    this.size = Math.min(this.size * 2, this.most);
  }
}
