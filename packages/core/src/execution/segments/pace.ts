/** Rows, or elements and pairs of them, that are gone through before others get their turn. */
const workAtOnce = 2_048;
const fewestAtFirst = 64;

/** How many rows a loop is given at a time: fewer where each is much work. */
export class Pace {
  private readonly most: number;
  size: number;

  /** @param multiplies whether a row may become many: how many shows with the first */
  constructor(batchRows: number, multiplies: boolean) {
    this.most = Math.min(batchRows, workAtOnce);
    this.size = multiplies ? 1 : Math.min(fewestAtFirst, batchRows);
  }

  /** To be told how much work the rows were that were gone through. */
  learn(rows: number, work: number): void {
    if (rows > 0) this.size = Math.max(1, Math.min(this.size * 2, this.most, Math.floor(workAtOnce / (1 + work / rows))));
  }
}
