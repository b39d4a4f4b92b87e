/** Stands for any word that is no term: a stop word. */
export const stopWord = 0;
/** Stands between two texts, which no phrase crosses. */
export const border = 1;
/** Terms are numbered from here. */
export const firstTerm = 2;

/** As many bytes may lie unused before those that are used are moved together. */
const leastUnused = 65_536;

/**
 * The words of each document's texts at a path, one after another, as numbers in as many bytes as they need, seven bits in each
 * (LEB128). Terms that come early are common, and take a byte or two.
 */
export class WordSequences {
  private data = new Uint8Array(1_024);
  private used = 0;
  private unused = 0;
  /** One more than where the sequence of a document begins, with its number of words before it; 0 where it has none. */
  private starts = new Uint32Array(1_024);
  /** The words that were read last, and how many. */
  words = new Uint32Array(256);
  count = 0;

  get bytes(): number {
    return this.data.byteLength + this.starts.byteLength;
  }

  put(position: number, words: readonly number[]): void {
    // A number of 32 bits takes five bytes at most.
    this.makeRoom(5 * (words.length + 1));
    if (position >= this.starts.length) this.starts = longer(this.starts, new Uint32Array(Math.max(position + 1, this.starts.length * 2)));
    this.starts[position] = this.used + 1;
    this.write(words.length);
    for (const word of words) this.write(word);
  }

  remove(position: number): void {
    const start = this.starts[position] ?? 0;
    if (start === 0) return;
    this.starts[position] = 0;
    this.unused += this.endOf(start - 1) - start + 1;
    if (this.unused > leastUnused && this.unused > this.used / 2) this.moveTogether();
  }

  /** Reads the words of a document into `words`, as many as `count` tells. */
  read(position: number): void {
    this.count = 0;
    const start = this.starts[position] ?? 0;
    if (start === 0) return;
    const { data } = this;
    let at = start - 1;
    let count = 0;
    for (let shift = 0; ; shift += 7) {
      const byte = data[at++]!;
      count |= (byte & 127) << shift;
      if (byte < 128) break;
    }
    if (count > this.words.length) this.words = new Uint32Array(count * 2);
    const { words } = this;
    for (let i = 0; i < count; i++) {
      let number = data[at++]!;
      if (number > 127) {
        number &= 127;
        for (let shift = 7; ; shift += 7) {
          const byte = data[at++]!;
          number |= (byte & 127) << shift;
          if (byte < 128) break;
        }
      }
      words[i] = number;
    }
    this.count = count;
  }

  /** Lets go of what is kept for more. */
  trim(): void {
    this.data = this.data.slice(0, this.used);
  }

  private write(number: number): void {
    let left = number;
    while (left > 127) {
      this.data[this.used++] = (left & 127) | 128;
      left >>>= 7;
    }
    this.data[this.used++] = left;
  }

  /** Where a sequence ends that begins at a place: numbers end with a byte whose highest bit is not set. */
  private endOf(start: number): number {
    let at = start;
    let left = 0;
    for (let shift = 0; ; shift += 7) {
      const byte = this.data[at++]!;
      left |= (byte & 127) << shift;
      if (byte < 128) break;
    }
    while (left > 0) if (this.data[at++]! < 128) left--;
    return at;
  }

  private makeRoom(more: number): void {
    if (this.used + more > this.data.length) this.data = longer(this.data, new Uint8Array(Math.ceil((this.used + more) * 1.5)));
  }

  private moveTogether(): void {
    const data = new Uint8Array(this.used - this.unused + leastUnused);
    let used = 0;
    for (let position = 0; position < this.starts.length; position++) {
      const start = this.starts[position]!;
      if (start === 0) continue;
      const sequence = this.data.subarray(start - 1, this.endOf(start - 1));
      data.set(sequence, used);
      this.starts[position] = used + 1;
      used += sequence.length;
    }
    this.data = data;
    this.used = used;
    this.unused = 0;
  }
}

function longer<T extends Uint8Array<ArrayBuffer> | Uint32Array<ArrayBuffer>>(from: T, to: T): T {
  to.set(from);
  return to;
}
