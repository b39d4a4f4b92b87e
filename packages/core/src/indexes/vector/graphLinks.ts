/** Which nodes of a graph are linked, layer by layer: each list begins with how many there are. */
export class GraphLinks {
  private readonly links: number;
  /** Those of the lowest layer, side by side. */
  private lowest: Int32Array;
  /** Those of the layers above, by node. */
  private readonly upper: Int32Array[][] = [];

  constructor(links: number, nodes: number) {
    this.links = links;
    this.lowest = new Int32Array(nodes * this.width);
  }

  /** There is room for some more than are kept, so that choosing among them is seldom needed. */
  private get width(): number {
    return 3 * this.links + 1;
  }
  get bytes(): number {
    return this.lowest.byteLength;
  }
  room(nodes: number): void {
    const lowest = new Int32Array(nodes * this.width);
    lowest.set(this.lowest);
    this.lowest = lowest;
  }

  /** How many are kept where there are too many. */
  most(layer: number): number {
    return layer === 0 ? 2 * this.links : this.links;
  }
  /** Puts a node into layers, up to one. */
  begin(node: number, top: number): void {
    this.upper[node] = Array.from({ length: top }, () => new Int32Array(2 * this.links + 1));
  }
  heightOf(node: number): number {
    return this.upper[node]!.length;
  }
  of(node: number, layer: number): Int32Array {
    return layer === 0 ? this.lowest.subarray(node * this.width, (node + 1) * this.width) : this.upper[node]![layer - 1]!;
  }
  set(node: number, layer: number, to: readonly number[]): void {
    const own = this.of(node, layer);
    own[0] = to.length;
    for (let i = 0; i < to.length; i++) own[i + 1] = to[i]!;
  }
}
