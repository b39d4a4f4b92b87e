/** A number above 0 and up to 1 for a node, always the same, so that a graph that is built again is the same (splitmix32). */
export function chance(node: number): number {
  let x = (node + 0x9e3779b9) | 0;
  x = Math.imul(x ^ (x >>> 16), 0x21f0aaad);
  x = Math.imul(x ^ (x >>> 15), 0x735a2d97);
  return (((x ^ (x >>> 15)) >>> 0) + 1) / 0x1_0000_0000;
}
