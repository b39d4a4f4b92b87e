import type { Json } from '../values/json.ts';

/** Fewer rows are put at the end of the last part. */
const ownPart = 1_024;

/**
 * The rows of a result, in parts: a list of half a million that grows by being copied takes as long as making the rows.
 * Reading a page of it costs what the page does, and a search for the part.
 */
export class RowList {
  private readonly parts: Json[][] = [];
  /** The number of the first row of each part. */
  private readonly starts: number[] = [];
  length = 0;

  /** Takes rows in; their array is the list's own from now on. */
  add(rows: Json[]): void {
    if (rows.length === 0) return;
    const last = this.parts.at(-1);
    if (last !== undefined && rows.length < ownPart && last.length < ownPart) for (const row of rows) last.push(row);
    else {
      this.starts.push(this.length);
      this.parts.push(rows);
    }
    this.length += rows.length;
  }

  at(number: number): Json | undefined {
    const part = this.partOf(number);
    return this.parts[part]?.[number - this.starts[part]!];
  }

  /** The rows `[from, to)`, as far as there are so many. */
  slice(from: number, to: number): Json[] {
    const rows: Json[] = [];
    for (let part = this.partOf(from); part < this.parts.length && this.starts[part]! < to; part++) {
      const start = this.starts[part]!;
      for (const row of this.parts[part]!.slice(Math.max(0, from - start), to - start)) rows.push(row);
    }
    return rows;
  }

  all(): readonly Json[] {
    if (this.parts.length === 1) return this.parts[0]!;
    const rows = new Array<Json>(this.length);
    let at = 0;
    for (const part of this.parts) for (const row of part) rows[at++] = row;
    return rows;
  }

  /** The part in which a row stands. */
  private partOf(number: number): number {
    let low = 0;
    let high = this.starts.length;
    while (high - low > 1) {
      const middle = (low + high) >>> 1;
      if (this.starts[middle]! <= number) low = middle;
      else high = middle;
    }
    return low;
  }
}
