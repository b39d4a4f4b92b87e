import { grownInts } from './growing.ts';
import { keyOf, type MapKey } from '../../values/keys.ts';
import type { Json, Value } from '../../values/json.ts';
import { textBytes } from '../../values/size.ts';

/** What a value holds in the table beside what it is itself: its entry there, and its place in the list. */
const heldPerValue = 60;

/** What a value holds in the list of the first of each alone. */
const heldInList = 10;
/** Whole numbers up to this, if there are few more of them than values, are found by their place in an array. */
const greatestInPlace = 1 << 22;
const fewerThan = 16;
const roomAtFirst = 1_024;

/** Numbers values as they first come; values that are equal have one number. */
export class ValueNumbers {
  /** The first of each. */
  readonly values: Value[] = [];
  /** Of texts, which most keys are: found without a key being made of them, and without asking what else they may be. */
  private readonly texts = new Map<string, number>();
  private readonly numbers = new Map<MapKey, number>();
  /** The number of each small whole number, and one more; 0 where it has none. */
  private inPlace = new Int32Array(0);
  private readonly ownedBy: (value: Json) => number;
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
    if (typeof value === 'string') return this.texts.get(value) ?? this.addText(value);
    const number = this.find(value);
    return number < 0 ? this.add(value) : number;
  }

  /** The number of a value; negative where it has none. */
  find(value: Value): number {
    if (typeof value === 'string') return this.texts.get(value) ?? -1;
    if (typeof value === 'number' && value >= 0 && value < this.inPlace.length && (value | 0) === value) {
      const number = this.inPlace[value]! - 1;
      if (number >= 0) return number;
    }
    return this.numbers.get(keyOf(value)) ?? -1;
  }

  private addText(text: string): number {
    const number = this.values.length;
    this.values.push(text);
    this.texts.set(text, number);
    this.held += heldPerValue + this.ownedBy(text);
    return number;
  }

  private add(value: Exclude<Value, string>): number {
    const number = this.values.length;
    this.values.push(value);
    if (this.isInPlace(value)) {
      this.inPlace[value] = number + 1;
      this.held += heldInList;
      return number;
    }
    const key = keyOf(value);
    this.numbers.set(key, number);
    this.held += heldPerValue + (value === undefined ? 0 : this.ownedBy(value));
    if (typeof key === 'string') this.held += textBytes(key);
    return number;
  }

  /** Makes room for a small whole number where that is worth it. */
  private isInPlace(value: Value): value is number {
    if (typeof value !== 'number' || value < 0 || (value | 0) !== value) return false;
    if (value < this.inPlace.length) return true;
    if (value >= greatestInPlace || value >= (this.values.length + roomAtFirst) * fewerThan) return false;
    let room = roomAtFirst;
    while (room <= value) room *= 2;
    this.held += (room - this.inPlace.length) * 4;
    this.inPlace = grownInts(this.inPlace, room);
    return true;
  }
}
