/** Nodes by their distances, the least (or greatest) first: a binary heap over two arrays. */
export class DistanceHeap {
  size = 0;
  private readonly sign: 1 | -1;
  private readonly distances: number[] = [];
  private readonly nodes: number[] = [];

  /** @param first which of them is taken first */
  constructor(first: 'least' | 'greatest') {
    this.sign = first === 'least' ? 1 : -1;
  }
  clear(): void {
    this.size = 0;
  }
  get firstDistance(): number {
    return this.distances[0]! * this.sign;
  }
  get firstNode(): number {
    return this.nodes[0]!;
  }

  push(distance: number, node: number): void {
    const { distances, nodes } = this;
    const key = distance * this.sign;
    let at = this.size++;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (distances[parent]! <= key) break;
      distances[at] = distances[parent]!;
      nodes[at] = nodes[parent]!;
      at = parent;
    }
    distances[at] = key;
    nodes[at] = node;
  }

  /** Takes the first one away. */
  pop(): void {
    const { distances, nodes } = this;
    const size = --this.size;
    if (size === 0) return;
    const key = distances[size]!;
    const node = nodes[size]!;
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= size) break;
      if (child + 1 < size && distances[child + 1]! < distances[child]!) child++;
      if (distances[child]! >= key) break;
      distances[at] = distances[child]!;
      nodes[at] = nodes[child]!;
      at = child;
    }
    distances[at] = key;
    nodes[at] = node;
  }
}
