import type { Expression } from '../tree.ts';
import { walk, type PathExpression } from '../tree.ts';
import type { NodeId } from '../places.ts';
import type { SelectItem } from './stage.ts';

/** A field by the names that lead to it from the top of a row. */
export type Chain = readonly string[];

/** What becomes of each row that comes to a stage; `new` where rows that come out are none of those that came in. */
export type Gives = 'one' | 'one or more' | 'at most one' | 'any' | 'new';

/** How a stage made a field, of which others, as they were called before it. */
export interface Made {
  readonly text: string;
  readonly from: readonly Chain[];
  /** Fields of collections, each with the collection's name. */
  readonly sources: readonly string[];
}

/**
 * What is true of a stage, for every rule that asks: rewrites, plans, ownership, lineage and traces know stages by these and
 * by no list of their names.
 */
export interface StageTraits<S> {
  readonly gives: (stage: S) => Gives;
  /** Whether what becomes of a row is decided by it alone, or by the others too. */
  readonly decidedBy: 'row' | 'rows';
  /** The order of what comes out: that in which it came in, one that the stage makes whatever came, or that of the first rows of each. */
  readonly order: 'kept' | 'made' | 'of first rows';
  /** Whether it gives something else where the same rows come in another order. */
  readonly looksAtOrder: (stage: S) => boolean;
  /** The fields that go on, and where to, where nothing else does; undefined where all others go on as they are. */
  readonly keepsOnly: (stage: S) => readonly SelectItem[] | undefined;
  /** Whether it can work on rows that have nothing but what it reads. */
  readonly worksOnParts: boolean;
  /** The fields that it writes or takes out; `any` where it is not known. */
  readonly writes: (stage: S) => readonly Chain[] | 'any';
  /** The collection or view that it reads, and where it is named. */
  readonly source: (stage: S) => { readonly name: string; readonly id: NodeId } | undefined;
  /** How it made a field; undefined where it passes it on as it was. */
  readonly made: (stage: S, field: Chain) => Made | undefined;
}

export const no = (): false => false;
export const none = (): undefined => undefined;
export const nothing = (): readonly [] => [];

/** Whether a field is what stands at a target, or inside it. */
export function covers(target: Chain, field: Chain): boolean {
  return target.length <= field.length && target.every((name, i) => name === field[i]);
}

/** Whether one of two chains of names leads into the other. */
export function overlap(a: Chain, b: Chain): boolean {
  return covers(a, b) || covers(b, a);
}

/** The fields of the row that an expression reads. */
export function readIn(expression: Expression): readonly Chain[] {
  const found: Chain[] = [];
  walk(expression, (node) => {
    if (node.kind === 'path' && node.root.kind !== 'partner') found.push(leading(node));
  });
  return uniqueFields(found.filter((names) => names.length > 0));
}

/** The names that a path begins with. */
export function leading({ segments }: PathExpression): string[] {
  const names: string[] = [];
  for (const { descendant, selectors } of segments) {
    const [selector] = selectors;
    if (descendant || selectors.length !== 1 || selector.kind !== 'name') break;
    names.push(selector.name);
  }
  return names;
}

export function uniqueFields(fields: readonly Chain[]): readonly Chain[] {
  return [...new Map(fields.map((field) => [JSON.stringify(field), field])).values()];
}
