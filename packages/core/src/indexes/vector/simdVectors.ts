import { asked, mostListed, type Apart, type PackedVectors } from './vectors.ts';
import { distancesModule } from './simd/distancesModule.ts';

/** What of WebAssembly is used; its types come with a host's, and the core is of none. */
interface Memory {
  readonly buffer: ArrayBuffer;
  readonly grow: (pages: number) => number;
}
declare const WebAssembly: {
  readonly validate: (bytes: Uint8Array) => boolean;
  readonly Module: new (bytes: Uint8Array) => object;
  readonly Memory: new (limits: { readonly initial: number; readonly maximum: number }) => Memory;
  readonly Instance: new (module: object, imports: object) => { readonly exports: unknown };
};
declare const atob: (text: string) => string;

/** Addresses are bytes from the beginning of the memory. */
interface Distances {
  readonly listed: (from: number, count: number) => void;
  readonly following: (from: number, first: number, count: number) => void;
  readonly nearer: (from: number, count: number, limit: number) => number;
}

const pageBytes = 65_536;
/** Of 32 bits of address. */
const mostPages = 65_536;
const numbersAtOnce = 8;
const metrics: Readonly<Record<Apart, number>> = { dot: 0, squares: 1 };

let compiled: object | null | undefined;
/** The module; null where the host has no such instructions. */
function moduleOf(): object | null {
  if (compiled !== undefined) return compiled;
  const bytes = Uint8Array.from(atob(distancesModule), (letter) => letter.charCodeAt(0));
  return (compiled = WebAssembly.validate(bytes) ? new WebAssembly.Module(bytes) : null);
}

/** Vectors in a memory where eight of their numbers are compared at a time (WebAssembly, fixed-width SIMD). Sums are of 32 bits. */
export class SimdVectors implements PackedVectors {
  list: Int32Array;
  out: Float32Array;
  private readonly memory: Memory;
  private readonly distances: Distances;
  private readonly dimensions: number;
  /** Of one vector. */
  private readonly stride: number;
  /** Where the list begins, and where the vectors do; what is asked for stands at 0. */
  private readonly listAt: number;
  private readonly outAt: number;
  private readonly base: number;

  private constructor(module: object, dimensions: number, apart: Apart) {
    this.dimensions = dimensions;
    this.stride = Math.ceil(dimensions / numbersAtOnce) * numbersAtOnce * 4;
    this.listAt = this.stride;
    this.outAt = this.listAt + mostListed * 4;
    this.base = this.outAt + mostListed * 4;
    this.memory = new WebAssembly.Memory({ initial: Math.ceil(this.base / pageBytes), maximum: mostPages });
    const { memory, stride: bytes, base, listAt: list, outAt: out } = this;
    const host = { memory, bytes, base, list, out, metric: metrics[apart] };
    this.distances = new WebAssembly.Instance(module, { host }).exports as Distances;
    [this.list, this.out] = this.views();
  }

  /** Undefined where the host has no such instructions, or no memory for them. */
  static where(dimensions: number, apart: Apart): SimdVectors | undefined {
    const module = moduleOf();
    if (module === null) return undefined;
    try {
      return new SimdVectors(module, dimensions, apart);
    } catch (error) {
      // The addresses that a process may set aside have an end.
      if (error instanceof RangeError) return undefined;
      throw error;
    }
  }

  private views(): [Int32Array, Float32Array] {
    const { buffer } = this.memory;
    return [new Int32Array(buffer, this.listAt, mostListed), new Float32Array(buffer, this.outAt, mostListed)];
  }

  get bytes(): number {
    return this.memory.buffer.byteLength;
  }
  room(count: number): void {
    const missing = Math.ceil((this.base + count * this.stride - this.memory.buffer.byteLength) / pageBytes);
    if (missing <= 0) return;
    this.memory.grow(missing);
    [this.list, this.out] = this.views();
  }
  put(number: number, vector: ArrayLike<number>): void {
    this.at(number).set(vector);
  }
  at(number: number): Float32Array {
    return new Float32Array(this.memory.buffer, this.base + number * this.stride, this.dimensions);
  }
  ask(vector: ArrayLike<number>): void {
    new Float32Array(this.memory.buffer, 0, this.dimensions).set(vector);
  }

  listed(from: number, count: number): void {
    this.distances.listed(this.addressOf(from), count);
  }
  following(first: number, count: number): void {
    this.distances.following(0, this.addressOf(first), count);
  }
  nearer(from: number, count: number, limit: number): number {
    return this.distances.nearer(this.addressOf(from), count, limit);
  }
  private addressOf(number: number): number {
    return number === asked ? 0 : this.base + number * this.stride;
  }
}
