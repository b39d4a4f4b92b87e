import { keyOf, type MapKey } from '../../values/keys.ts';
import type { Json, Value } from '../../values/json.ts';
import { textBytes } from '../../values/size.ts';

/** What a value holds in the table beside what it is itself: its entry there, and its place in the list. */
const heldPerValue = 60;

/** Numbers values as they first come; values that are equal have one number. */
export class ValueNumbers {
  /** The first of each. */
  readonly values: Value[] = [];
  private readonly numbers = new Map<MapKey, number>();
  private readonly ownedBy: (value: Json) => number;
  private last: Value;
  private lastNumber = -1;
  /** Bytes. */
  held = 0;

  /** @param ownedBy bytes of a value that are held for being here alone */
  constructor(ownedBy: (value: Json) => number) {
    this.ownedBy = ownedBy;
  }

  get size(): number {
    return this.values.length;
  }

  /** The number of a value: `size` before the call where it is new. */
  numberOf(value: Value): number {
    // The same often comes several times in a row.
    if (value === this.last && this.lastNumber >= 0) return this.lastNumber;
    const key = keyOf(value);
    let number = this.numbers.get(key);
    if (number === undefined) number = this.add(key, value);
    this.last = value;
    this.lastNumber = number;
    return number;
  }

  /** The number of a value; negative where it has none. */
  find(value: Value): number {
    return this.numbers.get(keyOf(value)) ?? -1;
  }

  private add(key: MapKey, value: Value): number {
    const number = this.values.length;
    this.numbers.set(key, number);
    this.values.push(value);
    this.held += heldPerValue + (value === undefined ? 0 : this.ownedBy(value));
    if (typeof key === 'string' && key !== value) this.held += textBytes(key);
    return number;
  }
}
