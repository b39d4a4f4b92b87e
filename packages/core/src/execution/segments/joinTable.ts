import type { Json, Value } from '../../values/json.ts';
import { grownInts } from '../numbering/growing.ts';
import { TupleNumbers } from '../numbering/tupleNumbers.ts';

/** What a partner holds in the list of all, which grows, and each time that it stands under a key. */
const heldPerPartner = 10;
const heldPerEntry = 8;
/** So many are put under their keys between two pauses. */
const atOnce = 1 << 16;

/**
 * The partners of a hash join by their keys. While it is filled, each entry is a partner's number and that of its key; when it is settled,
 * entries are put in the order of their keys by counting them, so that those of one key lie side by side in the order in which they came.
 */
export class JoinTable {
  readonly partners: Json[] = [];
  private readonly keys: TupleNumbers;
  private partnerOf = new Int32Array(16);
  private keyOf = new Int32Array(16);
  private entries = 0;
  /** Partners by key; those of key k stand in `[starts[k + 1], starts[k + 2])`, and those of the key -1, which are none, in `[0, 0)`. */
  private byKey: Json[] = [];
  private starts = new Int32Array(2);
  /** As partners, by their numbers; only where lists of keys are looked for. */
  private numbers: Int32Array | undefined;

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
    this.enter(partner, values.length === 0 ? 0 : this.keys.numberOf(...values));
  }

  /** The same where the key is one value. */
  putOne(partner: number, value: Value): void {
    if (value != null) this.enter(partner, this.keys.numberOf(value));
  }

  /** Puts a partner under each key in a list; equal ones are one key. */
  putEach(partner: number, list: readonly Json[]): void {
    const keys = new Set<number>();
    for (const value of list) if (value !== null) keys.add(this.keys.numberOf(value));
    for (const key of keys) this.enter(partner, key);
  }

  private enter(partner: number, key: number): void {
    const entry = this.entries++;
    if (entry === this.keyOf.length) {
      this.partnerOf = grownInts(this.partnerOf, entry * 2);
      this.keyOf = grownInts(this.keyOf, entry * 2);
    }
    this.partnerOf[entry] = partner;
    this.keyOf[entry] = key;
  }

  /** Puts the entries in the order of their keys, with pauses. No partner is taken in afterwards. */
  *settle(withNumbers: boolean): Generator<void, void, void> {
    const { entries, keyOf, partnerOf, partners } = this;
    const starts = new Int32Array(this.keys.size + 3);
    for (let entry = 0; entry < entries; entry++) starts[keyOf[entry]! + 2]!++;
    for (let k = 2; k < starts.length; k++) starts[k]! += starts[k - 1]!;
    // Here `starts[k + 1]` is where the next partner of key k goes; when all have gone, it is where those of key k + 1 begin.
    const byKey = new Array<Json>(entries);
    const numbers = withNumbers ? new Int32Array(entries) : undefined;
    for (let entry = 0; entry < entries; entry++) {
      const at = starts[keyOf[entry]! + 1]!++;
      const partner = partnerOf[entry]!;
      byKey[at] = partners[partner]!;
      if (numbers !== undefined) numbers[at] = partner;
      if ((entry & (atOnce - 1)) === atOnce - 1) yield;
    }
    starts.copyWithin(1, 0);
    starts[0] = 0;
    starts[1] = 0;
    this.byKey = byKey;
    this.starts = starts;
    this.numbers = numbers;
    this.keyOf = this.partnerOf = new Int32Array(0);
  }

  /** The number of a key; negative where there is none, as of one with a missing or null value. */
  keyFor(...values: Value[]): number {
    if (values.length === 0) return this.entries === 0 ? -1 : 0;
    for (const value of values) if (value == null) return -1;
    return this.keys.lookUp(...values);
  }

  /** The same where the key is one value. */
  keyForOne(value: Value): number {
    return value == null ? -1 : this.keys.lookUpOne(value);
  }

  /** Where the partners under a key begin. */
  startOf(key: number): number {
    return this.starts[key + 1]!;
  }

  /** And where they end. */
  endOf(key: number): number {
    return this.starts[key + 2]!;
  }

  partner(at: number): Json {
    return this.byKey[at]!;
  }

  /** Partners that lie side by side, as a list of its own. */
  listed(start: number, end: number): Json[] {
    return start === end ? [] : this.byKey.slice(start, end);
  }

  /** The partners under any of the keys in a list, each once and in the order in which they came. */
  partnersOfAny(list: Value): readonly Json[] {
    if (!Array.isArray(list)) return [];
    const { numbers } = this;
    if (numbers === undefined) throw new Error('a list of keys is looked for in a table that was not made for it');
    const found = new Set<number>();
    for (const value of list) {
      const key = this.keyForOne(value);
      for (let at = this.startOf(key), end = this.endOf(key); at < end; at++) found.add(numbers[at]!);
    }
    return [...found].sort((a, b) => a - b).map((number) => this.partners[number]!);
  }

  /** Bytes, without those of the partners themselves. */
  get held(): number {
    const flat = this.starts.byteLength + this.partnerOf.byteLength + this.keyOf.byteLength + (this.numbers?.byteLength ?? 0);
    return this.partners.length * heldPerPartner + this.byKey.length * heldPerEntry + this.keys.held + flat;
  }
}
