import type { Json, Value } from '../../values/json.ts';
import { PairTable } from './pairTable.ts';
import { ValueNumbers } from './valueNumbers.ts';

/**
 * Numbers tuples of values as they first come. The values at each place are numbered, and then the numbers of a tuple
 * are, pair by pair: no text is put together for any row.
 */
export class TupleNumbers {
  private readonly places: readonly ValueNumbers[];
  private readonly pairs: readonly PairTable[];
  /** The number of a tuple, its values given one by one: `size` before the call where it is new. */
  readonly numberOf: (...values: Value[]) => number;
  /** @param ownedBy for each place, bytes of a value that are held for being here alone */
  constructor(ownedBy: readonly ((value: Json) => number)[]) {
    this.places = ownedBy.map((owned) => new ValueNumbers(owned));
    this.pairs = ownedBy.slice(1).map(() => new PairTable());
    this.numberOf = this.numbering();
  }

  private numbering(): (...values: Value[]) => number {
    const [first, second] = this.places;
    const [pair] = this.pairs;
    if (first === undefined) return () => 0;
    if (second === undefined || pair === undefined) return (value) => first.numberOf(value);
    if (this.places.length === 2) return (a, b) => pair.numberOf(first.numberOf(a), second.numberOf(b));
    return (...values) => {
      let number = first.numberOf(values[0]!);
      for (let k = 1; k < values.length; k++) number = this.pairs[k - 1]!.numberOf(number, this.places[k]!.numberOf(values[k]));
      return number;
    };
  }

  /** The number of a tuple of one; negative where it has none. */
  lookUpOne(value: Value): number {
    return this.places[0]!.find(value);
  }

  /** The number of a tuple; negative where it has none. */
  lookUp(...values: Value[]): number {
    let number = this.places[0]!.find(values[0]);
    for (let k = 1; k < values.length && number >= 0; k++) {
      const further = this.places[k]!.find(values[k]);
      number = further < 0 ? -1 : this.pairs[k - 1]!.find(number, further);
    }
    return number;
  }

  get size(): number {
    return this.pairs.at(-1)?.size ?? this.places[0]?.size ?? 1;
  }

  /** A text that is equal to one at a place, and is held already: so that each is held once. */
  heldText(place: number, text: string): Value {
    const numbers = this.places[place]!;
    return numbers.values[numbers.numberOf(text)];
  }

  /** Bytes. */
  get held(): number {
    let bytes = 0;
    for (const place of this.places) bytes += place.held;
    for (const pair of this.pairs) bytes += pair.held;
    return bytes;
  }
}
