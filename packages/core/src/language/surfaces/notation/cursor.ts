import type { Expression, PathRoot, Segment } from '../../tree.ts';

/** What the parser is within, where it comes to the cursor: what was begun, and how far it has come. */
export type Standing =
  | { readonly kind: 'path'; readonly root: PathRoot; readonly segments: readonly Segment[] }
  /** The condition of a filter on what a path has led to so far. */
  | { readonly kind: 'filter' }
  | { readonly kind: 'call'; readonly name: string; readonly given: readonly Expression[] }
  | { readonly kind: 'comparison'; readonly left: Expression }
  | { readonly kind: 'array' }
  | { readonly kind: 'join'; readonly source: string; readonly name: string };

/** What the parser would take next. */
export type Wanted = 'field' | 'expression' | 'source';

export interface AtCursor {
  readonly wanted: Wanted;
  /** Where what is wanted begins: before the cursor, where it has been begun. */
  readonly from: number;
  readonly within: readonly Standing[];
}

/** What the parser tells of the place at which it comes to the cursor. */
export class Cursor {
  private readonly within: Standing[] = [];
  private found: AtCursor | undefined;
  private joined: (Standing & { kind: 'join' }) | undefined;

  /** Something is begun; the parser that ends it says so by calling what is given back. */
  enter(standing: Standing): () => void {
    const { length } = this.within;
    this.within.push(standing);
    if (standing.kind === 'join') this.joined = standing;
    return () => void (this.within.length = length);
  }

  /** The first that is wanted is what stands there by the grammar; what is tried after it is for want of it. */
  want(wanted: Wanted, from: number): void {
    this.found ??= { wanted, from, within: [...this.within] };
  }

  /** The partner that paths may begin with: of the join that the parser is in, or was where it gave up its condition. */
  partner(): (Standing & { kind: 'join' }) | undefined {
    if (this.joined !== undefined && !this.within.includes(this.joined)) this.within.unshift(this.joined);
    return this.joined;
  }

  /** What was wanted at the cursor, and what it is within, the outermost first; undefined where the parser did not come so far. */
  get place(): AtCursor | undefined {
    return this.found;
  }
}
