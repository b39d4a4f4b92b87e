import { hashOfNumber, hashOfText } from './valueHash.ts';

/** How much two sets of different values have in common; exact where nothing had to be left out. */
export interface Common {
  /** Different values that both have. */
  readonly common: number;
  /** Share of the first's different values that the second has, 0 to 1; and the other way. */
  readonly share: number;
  readonly back: number;
  readonly exact: boolean;
}

const widestMask = 0x7fff_ffff;

/**
 * The different values of a field, and beyond a bound a sample of them: those whose hash ends in so many zeros, so that two
 * samples keep the same values of what both have, and shares between them are not biased (coordinated sampling by hash: Broder,
 * "On the resemblance and containment of documents", 1997; Gibbons, "Distinct sampling", 2001).
 */
export class ValueSample {
  private readonly most: number;
  private mask = 0;
  private values = new Map<string | number, number>();
  private readonly parts = new Map<number, ReadonlyMap<string | number, number>>();
  private repeats = false;

  /** @param most values that are kept */
  constructor(most: number) {
    this.most = most;
  }

  add(value: string | number): void {
    const hash = typeof value === 'string' ? hashOfText(value) : hashOfNumber(value);
    if ((hash & this.mask) !== 0) return;
    const before = this.values.size;
    this.values.set(value, hash);
    if (this.values.size === before) this.repeats = true;
    while (this.values.size > this.most && this.mask < widestMask) {
      this.mask = this.mask * 2 + 1;
      this.values = this.under(this.mask);
    }
  }

  /** How many different values are kept. */
  get size(): number {
    return this.values.size;
  }

  /** Whether no value that is kept was met twice. */
  get isUnique(): boolean {
    return !this.repeats;
  }

  /** Whether all values are kept. */
  get isWhole(): boolean {
    return this.mask === 0;
  }

  with(other: ValueSample): Common {
    const mask = Math.max(this.mask, other.mask);
    const [first, second] = [this.part(mask), other.part(mask)];
    const [small, large] = first.size <= second.size ? [first, second] : [second, first];
    let common = 0;
    for (const value of small.keys()) if (large.has(value)) common++;
    const of = (all: number): number => (all === 0 ? 0 : common / all);
    return { common: common * (mask + 1), share: of(first.size), back: of(second.size), exact: mask === 0 };
  }

  private part(mask: number): ReadonlyMap<string | number, number> {
    if (mask === this.mask) return this.values;
    const known = this.parts.get(mask);
    if (known !== undefined) return known;
    const made = this.under(mask);
    this.parts.set(mask, made);
    return made;
  }

  private under(mask: number): Map<string | number, number> {
    const kept = new Map<string | number, number>();
    for (const [value, hash] of this.values) if ((hash & mask) === 0) kept.set(value, hash);
    return kept;
  }
}
