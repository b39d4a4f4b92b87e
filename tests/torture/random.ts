/** Numbers that are the same for the same seed (xoshiro128**, Blackman and Vigna 2018). */
export class Random {
  private readonly state = new Uint32Array(4);

  constructor(seed: number) {
    let x = seed >>> 0;
    for (let i = 0; i < 4; i++) {
      x = (x + 0x9e3779b9) >>> 0;
      let z = x;
      z = Math.imul(z ^ (z >>> 16), 0x85ebca6b);
      z = Math.imul(z ^ (z >>> 13), 0xc2b2ae35);
      this.state[i] = z ^ (z >>> 16);
    }
  }

  /** 32 bits. */
  bits(): number {
    const s = this.state;
    const rotated = (x: number, by: number) => (x << by) | (x >>> (32 - by));
    const result = Math.imul(rotated(Math.imul(s[1], 5), 7), 9) >>> 0;
    const t = s[1] << 9;
    s[2] ^= s[0];
    s[3] ^= s[1];
    s[1] ^= s[2];
    s[0] ^= s[3];
    s[2] ^= t;
    s[3] = rotated(s[3], 11);
    return result;
  }

  /** From 0 up to below `count`. */
  below(count: number): number {
    return Math.floor((this.bits() / 2 ** 32) * count);
  }
  chance(share: number): boolean {
    return this.bits() / 2 ** 32 < share;
  }
  pick<T>(from: readonly T[]): T {
    return from[this.below(from.length)];
  }
  /** One of several makers, the likelier the more it weighs. */
  weighed<T>(choices: readonly (readonly [number, () => T])[]): T {
    let left = this.below(choices.reduce((sum, [weight]) => sum + weight, 0));
    for (const [weight, make] of choices) {
      if (left < weight) return make();
      left -= weight;
    }
    throw new Error('nothing to choose from');
  }
  some<T>(from: readonly T[], most: number, least = 0): T[] {
    const count = least + this.below(most - least + 1);
    return [...from].map((one) => [this.bits(), one] as const).sort((a, b) => a[0] - b[0]).slice(0, count).map(([, one]) => one); // prettier-ignore
  }
  list<T>(least: number, most: number, make: (i: number) => T): T[] {
    return Array.from({ length: least + this.below(most - least + 1) }, (_, i) => make(i));
  }
}
