import type { Span } from './span.ts';

declare const nodeId: unique symbol;
/** The number of a node of a tree. No two nodes of one reading share it; what is made of a node and stands for it keeps it. */
export type NodeId = number & { readonly [nodeId]: true };

/** A node of a tree: it knows its number, and nothing of the text that it may have come from. */
export interface Identified {
  readonly id: NodeId;
}

/** The number of nodes that stand in no text: those that a rewrite or a form makes. */
export const nowhere = 0 as NodeId;

/** The side table of one text: where each node that was read from it stands. */
export class Places {
  /** The number of the first node; those of several texts that are read as one do not meet. */
  readonly first: number;
  private readonly spans: Span[] = [];

  constructor(first = 1) {
    this.first = first;
  }
  /** The first number that is free after those of this text. */
  get next(): number {
    return this.first + this.spans.length;
  }
  /** Gives a node its number, and remembers where it stands. */
  place({ from, to }: Span): Identified {
    const id = this.next as NodeId;
    this.spans.push({ from, to });
    return { id };
  }
  has({ id }: Identified): boolean {
    return id >= this.first && id < this.next;
  }
  /** Where a node stands, in UTF-16 offsets; the beginning of the text for a node that is not of it. */
  of({ id }: Identified): Span {
    return this.spans[id - this.first] ?? { from: 0, to: 0 };
  }
}
