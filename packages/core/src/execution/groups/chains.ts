import { grownInts } from '../numbering/growing.ts';

/**
 * Places in one list that belong to many groups: each place knows the next of its group. A list for each group would be as many
 * objects as there are groups, each with room for more than it has.
 */
export class Chains {
  private first = new Int32Array(0);
  private last = new Int32Array(0);
  private counts = new Int32Array(0);
  private next = new Int32Array(16);
  private length = 0;

  grow(groups: number): void {
    this.first = grownInts(this.first, groups);
    this.last = grownInts(this.last, groups);
    this.counts = grownInts(this.counts, groups);
  }

  /** Appends the next place of the list to a group's; @returns the place. */
  append(group: number): number {
    const place = this.length++;
    if (place === this.next.length) this.next = grownInts(this.next, place * 2);
    if (this.counts[group]!++ === 0) this.first[group] = place;
    else this.next[this.last[group]!] = place;
    this.last[group] = place;
    return place;
  }

  /** Fills a list, which has as many places as a group, with what stands at the group's, in the order in which they came. */
  read<T>(group: number, from: ArrayLike<T>, into: { [place: number]: T }): void {
    let place = this.first[group]!;
    for (let i = 0, count = this.counts[group]!; i < count; i++) {
      into[i] = from[place]!;
      place = this.next[place]!;
    }
  }

  countOf(group: number): number {
    return this.counts[group]!;
  }

  /** Bytes. */
  get held(): number {
    return this.first.byteLength + this.last.byteLength + this.counts.byteLength + this.next.byteLength;
  }
}
