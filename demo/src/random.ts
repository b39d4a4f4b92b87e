/** A seeded generator of pseudo-random numbers (mulberry32): the same seed, the same network. */
export class Random {
  private state: number;
  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** From 0, below 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 0x1_0000_0000;
  }
  /** A whole number from least to greatest, both included. */
  whole(least: number, greatest: number): number {
    return least + Math.floor(this.next() * (greatest - least + 1));
  }
  chance(share: number): boolean {
    return this.next() < share;
  }
  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.next() * list.length)]!;
  }
  /** Some different elements of a list, in the list's order. */
  some<T>(list: readonly T[], count: number): T[] {
    const left = new Set(list.keys());
    while (left.size > count) left.delete([...left][Math.floor(this.next() * left.size)]!);
    return [...left].map((i) => list[i]!);
  }
  /** One of the keys, as often as its weight says. */
  weighted<T extends string>(weights: Readonly<Record<T, number>>): T {
    const entries = Object.entries(weights) as [T, number][];
    let at = this.next() * entries.reduce((sum, [, weight]) => sum + weight, 0);
    for (const [key, weight] of entries) if ((at -= weight) < 0) return key;
    return entries[entries.length - 1]![0];
  }
}
