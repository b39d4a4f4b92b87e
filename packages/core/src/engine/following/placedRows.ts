import type { Json } from '../../values/json.ts';

/** A row as it is stored: put at a place, or, with undefined, taken from it. */
export interface RowPut {
  readonly position: number;
  readonly row: Json | undefined;
}

/** A kept row, and the place at which it is stored. */
export interface Entry {
  row: Json;
  place: number | undefined;
}

/** Room that is left between rows where they are laid out anew, for those that come between. */
const room = 8;

/**
 * The rows of a view in their order, and what has to be stored where they change: rows that stay keep their places, one that comes
 * between two others takes a place between theirs, and where there is none all are laid out anew.
 */
export class PlacedRows {
  private entries: readonly Entry[] = [];

  get length(): number {
    return this.entries.length;
  }

  /** Lays rows out for the first time, side by side. */
  begin(entries: readonly Entry[]): void {
    this.entries = entries;
    entries.forEach((entry, at) => (entry.place = at));
  }

  /** The same where they lie already. @param places ascending, of each in its order */
  standAt(places: readonly number[]): void {
    this.entries.forEach((entry, at) => (entry.place = places[at]));
  }

  /**
   * Goes over to other rows.
   * @param next in their order; those that stay are the same objects as before
   */
  become(next: readonly Entry[]): RowPut[] {
    const before = this.entries;
    this.entries = next;
    const stays = new Set(before);
    const freed = new Set<number>();
    const still = new Set(next);
    for (const entry of before) if (!still.has(entry) && entry.place !== undefined) freed.add(entry.place);
    const puts = placed(next, stays) ?? this.laidOut(before, next, freed);
    for (const { position } of puts) freed.delete(position);
    return [...[...freed].map((position) => ({ position, row: undefined })), ...puts];
  }

  private laidOut(before: readonly Entry[], next: readonly Entry[], freed: Set<number>): RowPut[] {
    for (const { place } of before) if (place !== undefined) freed.add(place);
    return next.map((entry, at) => {
      entry.place = at * room;
      return { position: entry.place, row: entry.row };
    });
  }
}

/** Gives those that are new places between those that stay; undefined where there is no room, or they stand in another order. */
function placed(next: readonly Entry[], stays: ReadonlySet<Entry>): RowPut[] | undefined {
  const puts: RowPut[] = [];
  let last = -1;
  for (let at = 0; at < next.length; at++) {
    const entry = next[at]!;
    if (stays.has(entry)) {
      if (entry.place === undefined || entry.place <= last) return undefined;
      last = entry.place;
      continue;
    }
    let end = at;
    while (end < next.length && !stays.has(next[end]!)) end++;
    const upTo = next[end]?.place ?? Infinity;
    const step = Math.min(room, Math.floor((upTo - last) / (end - at + 1)));
    if (step < 1) return undefined;
    for (; at < end; at++) {
      // At the end they stand side by side, as they did when they were first stored.
      last += upTo === Infinity ? 1 : step;
      next[at]!.place = last;
      puts.push({ position: last, row: next[at]!.row });
    }
    at--;
  }
  return puts;
}
