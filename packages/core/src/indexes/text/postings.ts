/** Frequencies from here on stand apart: nearly all fit into a byte. */
const large = 255;

/** The documents that have a term, by ascending positions, and how often each has it. */
export class Postings {
  /** Empty where it is that of several terms together. */
  readonly term: string;
  /** Of the term, among those of its path. */
  readonly number: number;
  size = 0;
  private positions = new Uint32Array(2);
  private frequencies = new Uint8Array(2);
  private largeOnes: Map<number, number> | undefined;

  constructor(term = '', number = 0) {
    this.term = term;
    this.number = number;
  }

  /** Bytes. */
  get bytes(): number {
    return this.positions.byteLength + this.frequencies.byteLength + (this.largeOnes?.size ?? 0) * 40;
  }
  positionAt(at: number): number {
    return this.positions[at]!;
  }
  frequencyAt(at: number): number {
    const frequency = this.frequencies[at]!;
    return frequency < large ? frequency : this.largeOnes!.get(this.positions[at]!)!;
  }
  /** Ascending. */
  get positionList(): Uint32Array {
    return this.positions.subarray(0, this.size);
  }

  /** The place of a position among them, or of the first after it. */
  placeOf(position: number): number {
    let low = 0;
    let high = this.size;
    while (low < high) {
      const middle = (low + high) >>> 1;
      if (this.positions[middle]! < position) low = middle + 1;
      else high = middle;
    }
    return low;
  }
  /** Documents mostly come one after another. */
  add(position: number, frequency: number): void {
    const at = this.size === 0 || this.positions[this.size - 1]! < position ? this.size : this.placeOf(position);
    if (this.size === this.positions.length) this.grow(Math.max(4, Math.ceil(this.size * 1.5)));
    if (at < this.size) {
      this.positions.copyWithin(at + 1, at, this.size);
      this.frequencies.copyWithin(at + 1, at, this.size);
    }
    this.positions[at] = position;
    this.frequencies[at] = Math.min(frequency, large);
    if (frequency >= large) (this.largeOnes ??= new Map<number, number>()).set(position, frequency);
    this.size++;
  }

  remove(position: number): void {
    const at = this.placeOf(position);
    if (at >= this.size || this.positions[at] !== position) return;
    this.positions.copyWithin(at, at + 1, this.size);
    this.frequencies.copyWithin(at, at + 1, this.size);
    this.largeOnes?.delete(position);
    this.size--;
  }

  /** Lets go of what it keeps for more. */
  trim(): void {
    if (this.positions.length > this.size) this.grow(this.size);
  }
  private grow(to: number): void {
    const positions = new Uint32Array(to);
    positions.set(this.positions.subarray(0, this.size));
    const frequencies = new Uint8Array(to);
    frequencies.set(this.frequencies.subarray(0, this.size));
    this.positions = positions;
    this.frequencies = frequencies;
  }
}
