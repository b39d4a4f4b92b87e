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
  /** One more than where the sequence of a document begins, with its number of bytes before it; 0 where it has none. */
  private starts = new Uint32Array(1_024);
  /** The words that were read last, and how many. */
  words = new Uint32Array(256);
  count = 0;
  private begin = 0;
  private end = 0;

  get bytes(): number {
    return this.data.byteLength + this.starts.byteLength;
  }

  put(position: number, words: readonly number[]): void {
    // A number of 32 bits takes five bytes at most.
    this.makeRoom(5 * (words.length + 1));
    if (position >= this.starts.length) this.starts = longer(this.starts, new Uint32Array(Math.max(position + 1, this.starts.length * 2)));
    this.starts[position] = this.used + 1;
    let bytes = 0;
    for (const word of words) bytes += bytesOf(word);
    this.write(bytes);
    for (const word of words) this.write(word);
  }

  remove(position: number): void {
    const start = this.starts[position] ?? 0;
    if (start === 0) return;
    this.starts[position] = 0;
    this.find(start);
    this.unused += this.end - start + 1;
    if (this.unused > leastUnused && this.unused > this.used / 2) this.moveTogether();
  }

  /** Reads the words of a document into `words`, as many as `count` tells. */
  read(position: number): void {
    this.count = 0;
    const start = this.starts[position] ?? 0;
    if (start === 0) return;
    this.find(start);
    const { data, end } = this;
    if (end - this.begin > this.words.length) this.words = new Uint32Array((end - this.begin) * 2);
    const { words } = this;
    let count = 0;
    for (let at = this.begin; at < end;) {
      let number = data[at++]!;
      if (number > 127) {
        number &= 127;
        for (let shift = 7; ; shift += 7) {
          const byte = data[at++]!;
          number |= (byte & 127) << shift;
          if (byte < 128) break;
        }
      }
      words[count++] = number;
    }
    this.count = count;
  }

  /** Whether a document has words one after another, as `encodedWords` gives them: bytes are compared and nothing is decoded. */
  has(position: number, encoded: Uint8Array): boolean {
    const start = this.starts[position] ?? 0;
    if (start === 0) return false;
    this.find(start);
    const { data, begin } = this;
    const last = this.end - encoded.length;
    const first = encoded[0];
    for (let at = begin; at <= last; at++) {
      if (data[at] !== first) continue;
      let same = 1;
      while (same < encoded.length && data[at + same] === encoded[same]) same++;
      // A number ends with a byte below 128: what follows such a byte is the beginning of one.
      if (same === encoded.length && (at === begin || data[at - 1]! < 128)) return true;
    }
    return false;
  }

  /** Lets go of what is kept for more. */
  trim(): void {
    this.data = this.data.slice(0, this.used);
  }

  private write(number: number): void {
    this.used = encode(number, this.data, this.used);
  }

  /** Finds where the numbers of a sequence begin and end, of which `starts` tells. */
  private find(start: number): void {
    const { data } = this;
    let at = start - 1;
    let bytes = data[at++]!;
    if (bytes > 127) {
      bytes &= 127;
      for (let shift = 7; ; shift += 7) {
        const byte = data[at++]!;
        bytes |= (byte & 127) << shift;
        if (byte < 128) break;
      }
    }
    this.begin = at;
    this.end = at + bytes;
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
      this.find(start);
      const sequence = this.data.subarray(start - 1, this.end);
      data.set(sequence, used);
      this.starts[position] = used + 1;
      used += sequence.length;
    }
    this.data = data;
    this.used = used;
    this.unused = 0;
  }
}

/** Words as a sequence has them. */
export function encodedWords(words: readonly number[]): Uint8Array {
  const data = new Uint8Array(5 * words.length);
  let used = 0;
  for (const word of words) used = encode(word, data, used);
  return data.subarray(0, used);
}

/** @returns the place after it */
function encode(number: number, data: Uint8Array, from: number): number {
  let at = from;
  let left = number;
  while (left > 127) {
    data[at++] = (left & 127) | 128;
    left >>>= 7;
  }
  data[at++] = left;
  return at;
}

function bytesOf(number: number): number {
  let bytes = 1;
  for (let left = number >>> 7; left > 0; left >>>= 7) bytes++;
  return bytes;
}

function longer<T extends Uint8Array<ArrayBuffer> | Uint32Array<ArrayBuffer>>(from: T, to: T): T {
  to.set(from);
  return to;
}
