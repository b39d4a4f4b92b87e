const mostWalks = 0xffff_ffff;

/** Which nodes a walk has met: each walk has a number, so that nothing has to be wiped between two. */
export class Marks {
  private marks: Uint32Array;
  private walk = 0;

  constructor(nodes: number) {
    this.marks = new Uint32Array(nodes);
  }
  get nodes(): number {
    return this.marks.length;
  }
  get bytes(): number {
    return this.marks.byteLength;
  }
  room(nodes: number): void {
    const marks = new Uint32Array(nodes);
    marks.set(this.marks);
    this.marks = marks;
  }

  /** Begins a walk that has met nothing. */
  begin(): void {
    if (this.walk === mostWalks) {
      this.marks.fill(0);
      this.walk = 0;
    }
    this.walk++;
  }
  /** Marks a node; gives whether it is met for the first time. */
  meet(node: number): boolean {
    if (this.marks[node] === this.walk) return false;
    this.marks[node] = this.walk;
    return true;
  }
}
