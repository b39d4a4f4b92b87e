import { settled, type Found } from '../expressions/compile.ts';
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
  /** The last part, while it has room that is not filled yet. */
  private open: (Found & { readonly positions: undefined }) | undefined;

  /** Takes rows in; their array is the list's own from now on. */
  add(rows: Json[]): void {
    if (rows.length === 0) return;
    this.settle();
    const last = this.parts.at(-1);
    if (last !== undefined && rows.length < ownPart && last.length < ownPart) for (const row of rows) last.push(row);
    else {
      this.starts.push(this.length);
      this.parts.push(rows);
    }
    this.length += rows.length;
  }

  /** A part with room for at least one more, for who fills it and tells how many have come. */
  room(): Found & { readonly positions: undefined } {
    if (this.open === undefined || this.open.count === this.open.rows.length) {
      this.open = { rows: new Array<Json>(ownPart), count: 0, positions: undefined };
      this.starts.push(this.length);
      this.parts.push(this.open.rows);
    }
    return this.open;
  }

  filled(count: number): void {
    this.length += count;
  }

  private settle(): void {
    if (this.open !== undefined) settled(this.open);
    this.open = undefined;
  }

  at(number: number): Json | undefined {
    const part = this.partOf(number);
    return this.parts[part]?.[number - this.starts[part]!];
  }

  /** The rows `[from, to)`, as far as there are so many. */
  slice(from: number, to: number): Json[] {
    this.settle();
    const rows: Json[] = [];
    for (let part = this.partOf(from); part < this.parts.length && this.starts[part]! < to; part++) {
      const start = this.starts[part]!;
      for (const row of this.parts[part]!.slice(Math.max(0, from - start), to - start)) rows.push(row);
    }
    return rows;
  }

  all(): readonly Json[] {
    this.settle();
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
