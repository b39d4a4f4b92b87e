import type { Json, Value } from '../../values/json.ts';
import { grownInts } from '../numbering/growing.ts';
import { TupleNumbers } from '../numbering/tupleNumbers.ts';

/** What a partner holds in the table: its place in the list, and in the chain of those under its key. */
const heldPerPartner = 10;

/**
 * The partners of a hash join by their keys. Those under one key form a chain in the order in which they came: numbers in flat memory,
 * in which nothing lies that a garbage collector would have to follow.
 */
export class JoinTable {
  readonly partners: Json[] = [];
  private readonly keys: TupleNumbers;
  /** The first and the last entry under each key; and of each entry its partner, and the next one. */
  private first = new Int32Array(16);
  private last = new Int32Array(16);
  private partnerOf = new Int32Array(16);
  private nextOf = new Int32Array(16);
  private entries = 0;

  /** @param ownedBy for each key, bytes of a value that are held for being here alone */
  constructor(ownedBy: readonly ((value: Json) => number)[]) {
    this.keys = new TupleNumbers(ownedBy);
  }

  /** Takes a partner in, without a key yet; @returns its number. */
  take(partner: Json): number {
    return this.partners.push(partner) - 1;
  }

  /** Puts a partner under a key. Missing and null match nothing. */
  put(partner: number, values: readonly Value[]): void {
    for (const value of values) if (value == null) return;
    const before = this.keys.size;
    if (values.length === 0) this.enter(partner, 0, this.entries === 0);
    else {
      const key = this.keys.numberOf(...values);
      this.enter(partner, key, key === before);
    }
  }

  /** The same where the key is one value. */
  putOne(partner: number, value: Value): void {
    if (value == null) return;
    const before = this.keys.size;
    const key = this.keys.numberOf(value);
    this.enter(partner, key, key === before);
  }

  private enter(partner: number, key: number, isNew: boolean): void {
    // Equal elements of a list are one key.
    if (!isNew && this.partnerOf[this.last[key]!] === partner) return;
    const entry = this.entries++;
    this.makeRoom(key);
    this.partnerOf[entry] = partner;
    this.nextOf[entry] = -1;
    if (isNew) this.first[key] = entry;
    else this.nextOf[this.last[key]!] = entry;
    this.last[key] = entry;
  }

  private makeRoom(key: number): void {
    if (this.entries > this.nextOf.length) {
      this.partnerOf = grownInts(this.partnerOf, this.nextOf.length * 2);
      this.nextOf = grownInts(this.nextOf, this.nextOf.length * 2);
    }
    if (key < this.first.length) return;
    this.first = grownInts(this.first, this.first.length * 2);
    this.last = grownInts(this.last, this.last.length * 2);
  }

  /** The first entry under a key; negative where there is none, as under one with a missing or null value. */
  entryOf(...values: Value[]): number {
    if (values.length === 0) return this.entries === 0 ? -1 : 0;
    for (const value of values) if (value == null) return -1;
    const key = this.keys.lookUp(...values);
    return key < 0 ? -1 : this.first[key]!;
  }

  /** The same where the key is one value. */
  entryOfOne(value: Value): number {
    if (value == null) return -1;
    const key = this.keys.lookUpOne(value);
    return key < 0 ? -1 : this.first[key]!;
  }

  partner(entry: number): Json {
    return this.partners[this.partnerOf[entry]!]!;
  }

  /** The next entry under the same key; negative after the last. */
  next(entry: number): number {
    return this.nextOf[entry]!;
  }

  /** The partners under any of the keys in a list, each once and in the order in which they came. */
  partnersOfAny(list: Value): readonly Json[] {
    if (!Array.isArray(list)) return [];
    const numbers = new Set<number>();
    for (const key of list)
      for (let entry = this.entryOfOne(key); entry >= 0; entry = this.nextOf[entry]!) numbers.add(this.partnerOf[entry]!);
    return [...numbers].sort((a, b) => a - b).map((number) => this.partners[number]!);
  }

  /** Bytes, without those of the partners themselves. */
  get held(): number {
    const flat = this.first.byteLength + this.last.byteLength + this.partnerOf.byteLength + this.nextOf.byteLength;
    return this.partners.length * heldPerPartner + this.keys.held + flat;
  }
}
