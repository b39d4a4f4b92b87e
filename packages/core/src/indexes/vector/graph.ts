import { DistanceHeap } from './heap.ts';
import { PlainVectors } from './plainVectors.ts';
import { chance } from './chance.ts';
import { GraphLinks } from './graphLinks.ts';
import { Marks } from './marks.ts';
import { chosenNeighbours, type Candidate } from './neighbours.ts';
import { packedVectors } from './packedVectors.ts';
import { asked, mostListed, type Apart, type PackedVectors } from './vectors.ts';

/** What is looked at on the way: whether a node may be in the answer. */
type Accepts = (node: number) => boolean;

/**
 * A navigable small world of vectors in layers (Malkov and Yashunin 2016): each node is linked to near ones, and few of them stand in the
 * layers above, from which a walk comes down.
 */
export class VectorGraph {
  readonly dimensions: number;
  count = 0;
  /** So many of them have links; the others are looked at one by one. */
  private linked = 0;
  /** Distances worked out since it was made. */
  compared = 0;
  private vectors: PackedVectors;
  private readonly apart: Apart;
  private readonly links: number;
  private readonly buildEffort: number;
  private readonly layers: GraphLinks;
  private entry = -1;
  private readonly marks: Marks;
  private readonly near = new DistanceHeap('least');
  private readonly found = new DistanceHeap('greatest');

  constructor(dimensions: number, apart: Apart, links: number, buildEffort: number) {
    this.dimensions = dimensions;
    this.apart = apart;
    this.links = links;
    this.buildEffort = buildEffort;
    this.vectors = packedVectors(dimensions, apart, 64);
    this.vectors.room(64);
    this.layers = new GraphLinks(links, 64);
    this.marks = new Marks(64);
  }

  /** Bytes. */
  get bytes(): number {
    return this.vectors.bytes + this.layers.bytes + this.marks.bytes + this.count * 24;
  }

  private room(): void {
    if (this.count < this.marks.nodes) return;
    const to = Math.ceil(this.count * 1.5);
    this.makeRoom(to);
    this.layers.room(to);
    this.marks.room(to);
  }
  /** Where they have become many, they move to where they are compared faster. */
  private makeRoom(to: number): void {
    const before = this.vectors;
    const better = before instanceof PlainVectors ? packedVectors(this.dimensions, this.apart, to) : before;
    better.room(to);
    if (better instanceof PlainVectors || better === before) return before.room(to);
    for (let node = 0; node < this.count; node++) better.put(node, before.at(node));
    this.vectors = better;
  }

  vectorOf(node: number): Float32Array {
    return this.vectors.at(node);
  }

  /** How far every node is from a vector, by node: about, by 32 bits. */
  everyDistance(query: Float32Array): Float32Array {
    const { vectors, count } = this;
    const all = new Float32Array(count);
    vectors.ask(query);
    for (let first = 0; first < count; first += mostListed) {
      const some = Math.min(mostListed, count - first);
      vectors.following(first, some);
      all.set(vectors.out.subarray(0, some), first);
    }
    return all;
  }

  /** How far a vector is from one node. */
  private distance(from: number, node: number): number {
    const { vectors } = this;
    vectors.list[0] = node;
    vectors.listed(from, 1);
    this.compared++;
    return vectors.out[0]!;
  }

  /** Takes a vector in, without links yet; gives its node. */
  hold(vector: Float32Array): number {
    this.room();
    const node = this.count++;
    this.vectors.put(node, vector);
    return node;
  }

  /** Links the next node that has been taken in; gives whether there are more. */
  linkNext(): boolean {
    if (this.linked === this.count) return false;
    this.link(this.linked++);
    return this.linked < this.count;
  }

  private link(node: number): void {
    const top = Math.floor(-Math.log(chance(node)) / Math.log(this.links));
    this.layers.begin(node, top);
    if (this.entry < 0) {
      this.entry = node;
      return;
    }
    const height = this.layers.heightOf(this.entry);
    let at = this.entry;
    for (let layer = height; layer > top; layer--) at = this.descend(node, at, layer);
    for (let layer = Math.min(top, height); layer >= 0; layer--) {
      this.searchLayer(node, at, layer, this.buildEffort);
      const chosen = this.choose(this.sorted(), this.links);
      this.layers.set(node, layer, chosen);
      for (const other of chosen) this.linkBack(other, node, layer);
      at = chosen[0] ?? at;
    }
    if (top > height) this.entry = node;
  }

  private linkBack(node: number, to: number, layer: number): void {
    const own = this.layers.of(node, layer);
    const count = own[0]!;
    // There is room for some more than are kept, so that choosing among them is seldom needed.
    if (count + 1 < own.length) {
      own[count + 1] = to;
      own[0] = count + 1;
      return;
    }
    const { list, out } = this.vectors;
    list.set(own.subarray(1, count + 1));
    list[count] = to;
    this.vectors.listed(node, count + 1);
    this.compared += count + 1;
    const all = Array.from({ length: count + 1 }, (_, k): [number, number] => [out[k]!, list[k]!]);
    this.layers.set(node, layer, this.choose(all.sort((a, b) => a[0] - b[0] || a[1] - b[1]), this.layers.most(layer))); // prettier-ignore
  }

  private choose(candidates: readonly Candidate[], most: number): number[] {
    const { kept, compared } = chosenNeighbours(this.vectors, candidates, most);
    this.compared += compared;
    return kept;
  }

  /** Compares a vector with those that a node is linked to and the walk has not met; gives how many there are, which stand in `list`. */
  private compareLinks(from: number, node: number, layer: number): number {
    const { vectors, marks } = this;
    const { list } = vectors;
    const own = this.layers.of(node, layer);
    let count = 0;
    for (let i = 1; i <= own[0]!; i++) {
      const to = own[i]!;
      if (marks.meet(to)) list[count++] = to;
    }
    vectors.listed(from, count);
    this.compared += count;
    return count;
  }

  /** The nearest node that is reached by going to a nearer one each time. */
  private descend(query: number, from: number, layer: number): number {
    let at = from;
    let best = this.distance(query, at);
    for (;;) {
      let next = at;
      this.marks.begin();
      const count = this.compareLinks(query, at, layer);
      const { list, out } = this.vectors;
      for (let k = 0; k < count; k++) if (out[k]! < best) [best, next] = [out[k]!, list[k]!];
      if (next === at) return at;
      at = next;
    }
  }

  /** Walks one layer until the `effort` nearest that it has met have no nearer neighbour; they stand in `found`. */
  private searchLayer(query: number, from: number, layer: number, effort: number, accepts?: Accepts): void {
    const { near, found } = this;
    near.clear();
    found.clear();
    const meet = (node: number, distance: number): void => {
      const isFull = found.size >= effort;
      if (isFull && distance >= found.firstDistance) return;
      near.push(distance, node);
      if (accepts !== undefined && !accepts(node)) return;
      found.push(distance, node);
      if (isFull) found.pop();
    };
    this.marks.begin();
    this.marks.meet(from);
    meet(from, this.distance(query, from));
    while (near.size > 0) {
      if (found.size >= effort && near.firstDistance > found.firstDistance) break;
      const node = near.firstNode;
      near.pop();
      const count = this.compareLinks(query, node, layer);
      const { list, out } = this.vectors;
      for (let k = 0; k < count; k++) meet(list[k]!, out[k]!);
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
    this.vectors.ask(query);
    const found = [...this.walked(effort, accepts), ...this.unlinked(accepts)];
    if (this.linked < this.count) found.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
    return found.slice(0, effort).map(([, node]) => node);
  }

  /** How far those are that have no links yet. */
  private unlinked(accepts: Accepts): [number, number][] {
    const { vectors, count } = this;
    const beside: [number, number][] = [];
    for (let first = this.linked; first < count; first += mostListed) {
      const some = Math.min(mostListed, count - first);
      vectors.following(first, some);
      this.compared += some;
      const distances = vectors.out.slice(0, some);
      for (let k = 0; k < some; k++) if (accepts(first + k)) beside.push([distances[k]!, first + k]);
    }
    return beside;
  }

  private walked(effort: number, accepts: Accepts): [number, number][] {
    if (this.entry < 0) return [];
    let at = this.entry;
    for (let layer = this.layers.heightOf(this.entry); layer > 0; layer--) at = this.descend(asked, at, layer);
    this.searchLayer(asked, at, 0, effort, accepts);
    return this.sorted();
  }
}
