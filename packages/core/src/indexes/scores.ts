import type { Scored } from './kind.ts';

/** So many of the best are put in order first: most ask for no more. */
const firstFew = 256;

/** What documents score, by their positions. */
export class Scores implements Scored {
  entries = 0;
  private readonly values: Float64Array;
  private readonly found: number[] = [];
  private readonly seen: Uint8Array;

  constructor(size: number) {
    this.values = new Float64Array(size);
    this.seen = new Uint8Array(size);
  }
  add(position: number, score: number): void {
    if (this.seen[position] === 0) {
      this.seen[position] = 1;
      this.found.push(position);
    }
    this.values[position]! += score;
  }

  readonly at = (position: number): number | undefined => (this.seen[position] === 1 ? this.values[position] : undefined);

  readonly bestFirst = function* (this: Scores): Generator<readonly [number, number]> {
    const { values, found } = this;
    const inOrder = (a: number, b: number): number => values[b]! - values[a]! || a - b;
    const first = firstOf(found, Math.min(firstFew, found.length), inOrder);
    for (const position of first) yield [position, values[position]!];
    if (first.length === found.length) return;
    const given = new Set(first);
    for (const position of found.filter((one) => !given.has(one)).sort(inOrder)) yield [position, values[position]!];
  }.bind(this);
}

/** The first of an order, in that order, by a heap whose root is the last of those that are kept (Williams 1964). */
export function firstOf(all: readonly number[], count: number, compare: (a: number, b: number) => number): number[] {
  const heap: number[] = [];
  const sink = (at: number): void => {
    for (;;) {
      const left = 2 * at + 1;
      let last = at;
      for (const child of [left, left + 1]) if (child < heap.length && compare(heap[child]!, heap[last]!) > 0) last = child;
      if (last === at) return;
      [heap[at], heap[last]] = [heap[last]!, heap[at]!];
      at = last;
    }
  };
  for (const one of all) {
    if (heap.length < count) {
      heap.push(one);
      if (heap.length === count) for (let at = count >> 1; at >= 0; at--) sink(at);
    } else if (compare(one, heap[0]!) < 0) {
      heap[0] = one;
      sink(0);
    }
  }
  return heap.sort(compare);
}
