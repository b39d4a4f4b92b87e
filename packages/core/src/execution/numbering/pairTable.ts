import { grownInts } from './growing.ts';

/**
 * Numbers pairs of small whole numbers as they first come: a hash table with open addressing in flat memory, in which
 * nothing lies that a garbage collector would have to follow.
 */
export class PairTable {
  /** The number of the pair that stands there, and one more; 0 where none does. At most half of the slots are taken. */
  private slots = new Int32Array(32);
  private firsts = new Int32Array(16);
  private seconds = new Int32Array(16);
  size = 0;

  /** The number of a pair: `size` before the call where it is new. */
  numberOf(first: number, second: number): number {
    const { slots, firsts, seconds } = this;
    const mask = slots.length - 1;
    let at = hashed(first, second) & mask;
    for (;;) {
      const number = slots[at]! - 1;
      if (number < 0) return this.add(first, second, at);
      if (firsts[number] === first && seconds[number] === second) return number;
      at = (at + 1) & mask;
    }
  }

  /** The number of a pair; negative where it has none. */
  find(first: number, second: number): number {
    const { slots, firsts, seconds } = this;
    const mask = slots.length - 1;
    for (let at = hashed(first, second) & mask; ; at = (at + 1) & mask) {
      const number = slots[at]! - 1;
      if (number < 0 || (firsts[number] === first && seconds[number] === second)) return number;
    }
  }

  private add(first: number, second: number, at: number): number {
    const number = this.size++;
    if (number === this.firsts.length) {
      this.firsts = grownInts(this.firsts, number * 2);
      this.seconds = grownInts(this.seconds, number * 2);
    }
    this.firsts[number] = first;
    this.seconds[number] = second;
    this.slots[at] = number + 1;
    if (this.size * 2 > this.slots.length) this.spread();
    return number;
  }

  private spread(): void {
    const slots = new Int32Array(this.slots.length * 2);
    const mask = slots.length - 1;
    for (let number = 0; number < this.size; number++) {
      let at = hashed(this.firsts[number]!, this.seconds[number]!) & mask;
      while (slots[at] !== 0) at = (at + 1) & mask;
      slots[at] = number + 1;
    }
    this.slots = slots;
  }

  /** Bytes. */
  get held(): number {
    return this.slots.byteLength + this.firsts.byteLength + this.seconds.byteLength;
  }
}

/** Mixes all bits of both, so that numbers in a row do not fall into a row of slots (after Fibonacci hashing; Knuth, vol. 3, 6.4). */
function hashed(first: number, second: number): number {
  const mixed = Math.imul(first, 0x9e3779b1) ^ Math.imul(second, 0x85ebca6b);
  return Math.imul(mixed ^ (mixed >>> 15), 0x2c1b3c6d) >>> 7;
}
