import { DistanceHeap } from './heap.ts';
import { measures, type Apart, type Measure } from './measures.ts';

/** What is looked at on the way: whether a node may be in the answer. */
type Accepts = (node: number) => boolean;

/**
 * A navigable small world of vectors in layers (Malkov and Yashunin 2016): each node is linked to near ones, and few of them stand in the
 * layers above, from which a walk comes down. Numbers are 32 bits wide, in one array.
 */
export class VectorGraph {
  readonly dimensions: number;
  count = 0;
  /** So many of them have links; the others are looked at one by one. */
  private linked = 0;
  /** Distances worked out since it was made. */
  compared = 0;
  private vectors: Float32Array;
  private readonly measure: Measure;
  private readonly links: number;
  private readonly buildEffort: number;
  /** Links of the lowest layer: how many, then which; of so many nodes each. */
  private lowest: Int32Array;
  /** Links of the layers above, by node. */
  private readonly upper: Int32Array[][] = [];
  private entry = -1;
  private stamps: Uint32Array;
  private stamp = 0;
  private readonly near = new DistanceHeap('least');
  private readonly found = new DistanceHeap('greatest');

  constructor(dimensions: number, apart: Apart, links: number, buildEffort: number) {
    this.dimensions = dimensions;
    this.measure = measures[apart];
    this.links = links;
    this.buildEffort = buildEffort;
    this.vectors = new Float32Array(dimensions * 64);
    this.lowest = new Int32Array(64 * (3 * links + 1));
    this.stamps = new Uint32Array(64);
  }

  /** Bytes. */
  get bytes(): number {
    return this.vectors.byteLength + this.lowest.byteLength + this.stamps.byteLength + this.count * 24;
  }

  private room(): void {
    if (this.count < this.stamps.length) return;
    const to = Math.ceil(this.count * 1.5);
    const vectors = new Float32Array(to * this.dimensions);
    vectors.set(this.vectors);
    const lowest = new Int32Array(to * (3 * this.links + 1));
    lowest.set(this.lowest);
    const stamps = new Uint32Array(to);
    stamps.set(this.stamps);
    [this.vectors, this.lowest, this.stamps] = [vectors, lowest, stamps];
  }

  /** How far a query is from a node. */
  distance(query: Float32Array, node: number): number {
    this.compared++;
    return this.measure(query, 0, this.vectors, node * this.dimensions, this.dimensions);
  }
  /** The same between two nodes. */
  private between(one: number, other: number): number {
    this.compared++;
    return this.measure(this.vectors, one * this.dimensions, this.vectors, other * this.dimensions, this.dimensions);
  }
  vectorOf(node: number): Float32Array {
    return this.vectors.subarray(node * this.dimensions, (node + 1) * this.dimensions);
  }

  /** Takes a vector in, without links yet; gives its node. */
  hold(vector: Float32Array): number {
    this.room();
    const node = this.count++;
    this.vectors.set(vector, node * this.dimensions);
    return node;
  }

  /** Links the next node that has been taken in; gives whether there are more. */
  linkNext(): boolean {
    if (this.linked === this.count) return false;
    this.link(this.linked++);
    return this.linked < this.count;
  }

  private link(node: number): void {
    const vector = this.vectorOf(node);
    const top = Math.floor(-Math.log(chance(node)) / Math.log(this.links));
    this.upper[node] = Array.from({ length: top }, () => new Int32Array(2 * this.links + 1));
    if (this.entry < 0) {
      this.entry = node;
      return;
    }
    const height = this.upper[this.entry]!.length;
    let at = this.entry;
    for (let layer = height; layer > top; layer--) at = this.descend(vector, at, layer);
    for (let layer = Math.min(top, height); layer >= 0; layer--) {
      this.searchLayer(vector, at, layer, this.buildEffort);
      const chosen = this.chosen(this.sorted(), this.links);
      this.setLinks(node, layer, chosen);
      for (const other of chosen) this.linkBack(other, node, layer);
      at = chosen[0] ?? at;
    }
    if (top > height) this.entry = node;
  }

  private most(layer: number): number {
    return layer === 0 ? 2 * this.links : this.links;
  }
  private linksOf(node: number, layer: number): Int32Array {
    const width = 3 * this.links + 1;
    return layer === 0 ? this.lowest.subarray(node * width, (node + 1) * width) : this.upper[node]![layer - 1]!;
  }
  private setLinks(node: number, layer: number, to: readonly number[]): void {
    const own = this.linksOf(node, layer);
    own[0] = to.length;
    for (let i = 0; i < to.length; i++) own[i + 1] = to[i]!;
  }
  private linkBack(node: number, to: number, layer: number): void {
    const own = this.linksOf(node, layer);
    const count = own[0]!;
    // There is room for some more than are kept, so that choosing among them is seldom needed.
    if (count + 1 < own.length) {
      own[count + 1] = to;
      own[0] = count + 1;
      return;
    }
    const all: [number, number][] = [[this.between(node, to), to]];
    for (let i = 1; i <= count; i++) all.push([this.between(node, own[i]!), own[i]!]);
    this.setLinks(node, layer, this.chosen(all.sort((a, b) => a[0] - b[0] || a[1] - b[1]), this.most(layer))); // prettier-ignore
  }

  /** Neighbours that lie in different directions: one that is nearer to another of them than to the middle adds little (algorithm 4). */
  private chosen(candidates: readonly (readonly [distance: number, node: number])[], most: number): number[] {
    const kept: number[] = [];
    const passed: number[] = [];
    for (const [distance, node] of candidates) {
      if (kept.length === most) break;
      let isApart = true;
      for (let k = 0; isApart && k < kept.length; k++) isApart = this.between(node, kept[k]!) >= distance;
      (isApart ? kept : passed).push(node);
    }
    for (const node of passed) {
      if (kept.length === most) break;
      kept.push(node);
    }
    return kept;
  }

  /** The nearest node that is reached by going to a nearer one each time. */
  private descend(query: Float32Array, from: number, layer: number): number {
    let at = from;
    let best = this.distance(query, at);
    for (;;) {
      let next = at;
      const own = this.linksOf(at, layer);
      for (let i = 1; i <= own[0]!; i++) {
        const distance = this.distance(query, own[i]!);
        if (distance < best) [best, next] = [distance, own[i]!];
      }
      if (next === at) return at;
      at = next;
    }
  }

  /** Walks one layer until the `effort` nearest that it has met have no nearer neighbour; they stand in `found`. */
  private searchLayer(query: Float32Array, from: number, layer: number, effort: number, accepts?: Accepts): void {
    const { near, found, stamps } = this;
    near.clear();
    found.clear();
    const stamp = ++this.stamp;
    const meet = (node: number): void => {
      stamps[node] = stamp;
      const distance = this.distance(query, node);
      const isFull = found.size >= effort;
      if (isFull && distance >= found.firstDistance) return;
      near.push(distance, node);
      if (accepts !== undefined && !accepts(node)) return;
      found.push(distance, node);
      if (isFull) found.pop();
    };
    meet(from);
    while (near.size > 0) {
      if (found.size >= effort && near.firstDistance > found.firstDistance) break;
      const node = near.firstNode;
      near.pop();
      const own = this.linksOf(node, layer);
      for (let i = 1; i <= own[0]!; i++) if (stamps[own[i]!] !== stamp) meet(own[i]!);
    }
  }
  private sorted(): [number, number][] {
    const all: [number, number][] = [];
    while (this.found.size > 0) {
      all.push([this.found.firstDistance, this.found.firstNode]);
      this.found.pop();
    }
    return all.reverse();
  }

  /** About the nearest nodes that are accepted, as many as the effort or fewer, nearest first. */
  nearest(query: Float32Array, effort: number, accepts: Accepts): number[] {
    const beside: [number, number][] = [];
    for (let node = this.linked; node < this.count; node++) if (accepts(node)) beside.push([this.distance(query, node), node]);
    const found = [...this.walked(query, effort, accepts), ...beside];
    if (beside.length > 0) found.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    return found.slice(0, effort).map(([, node]) => node);
  }

  private walked(query: Float32Array, effort: number, accepts: Accepts): [number, number][] {
    if (this.entry < 0) return [];
    let at = this.entry;
    for (let layer = this.upper[this.entry]!.length; layer > 0; layer--) at = this.descend(query, at, layer);
    this.searchLayer(query, at, 0, effort, accepts);
    return this.sorted();
  }
}

/** A number above 0 and up to 1 for a node, always the same, so that a graph that is built again is the same (splitmix32). */
function chance(node: number): number {
  let x = (node + 0x9e3779b9) | 0;
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return (((x ^ (x >>> 15)) >>> 0) + 1) / 0x1_0000_0000;
}
