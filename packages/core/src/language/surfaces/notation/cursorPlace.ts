import { descend, type FieldTree } from '../../../shape/fieldTree.ts';
import type { Environment } from '../../environment.ts';
import { elementsOf, treeOf, type Roots } from '../../followPath.ts';
import { signatureOf } from '../../functions/signatures.ts';
import { nowhere } from '../../places.ts';
import type { PathExpression, PathRoot } from '../../tree.ts';
import { Cursor, type AtCursor } from './cursor.ts';
import { parseExpression } from './expressions.ts';
import { readStage } from './parsePipeline.ts';
import { ParseFailure, Reader } from './reader.ts';
import type { Token } from './tokens.ts';

/** What may stand at the cursor by the grammar, and what is known of the fields there. */
export interface CursorPlace extends AtCursor {
  readonly roots: Roots;
}

/**
 * Has the parser come to the end of the tokens of a stage, which is where the cursor stands, and tell what it would take there.
 * What cannot be read before that is passed over.
 * @param before what the rows look like that come to the stage
 */
export function placeAtEnd(tokens: readonly Token[], before: FieldTree | undefined, { shapeOf }: Environment): CursorPlace | undefined {
  const cursor = new Cursor();
  let left = tokens;
  for (let parse: (reader: Reader) => unknown = readStage; ; parse = parseExpression) {
    const reader = new Reader(left, 'notation', undefined, cursor);
    const partner = cursor.partner();
    if (partner !== undefined) reader.partners = new Set([partner.name]);
    try {
      parse(reader);
    } catch (error) {
      if (!(error instanceof ParseFailure)) throw error;
    }
    if (cursor.place !== undefined || reader.token.kind === 'end') break;
    left = left.slice(left.indexOf(reader.token) + 1);
  }
  return cursor.place && { ...cursor.place, roots: rootsWithin(cursor.place.within, before, shapeOf) };
}

/** What `@`, `$` and the names of partners stand for within filters, calls over elements and joins. */
function rootsWithin(within: AtCursor['within'], before: FieldTree | undefined, shapeOf: Environment['shapeOf']): Roots {
  let roots: Roots = { current: before, whole: before };
  let path: PathExpression | undefined;
  for (const standing of within) {
    if (standing.kind === 'path') path = pathOf(standing.root, standing.segments);
    if (standing.kind === 'filter') roots = { ...roots, current: path && treeOf(path, roots)?.element };
    if (standing.kind === 'join') roots = { ...roots, partners: new Map([[standing.name, shapeOf?.(standing.source)]]) };
    if (standing.kind === 'call') {
      const [array] = standing.given;
      const { parameters = [] } = signatureOf(standing.name) ?? {};
      const kind = parameters[Math.min(standing.given.length, parameters.length - 1)]?.kind;
      if (kind === 'each' || kind === 'test') roots = { ...roots, current: array?.kind === 'path' ? elementsOf(array, roots) : undefined };
    }
  }
  return roots;
}

function pathOf(root: PathRoot, segments: PathExpression['segments']): PathExpression {
  return { kind: 'path', root, segments, id: nowhere };
}

/** The path that is being written at the cursor: its root, and the fields that it may go on with. */
export function pathAt({
  wanted,
  within,
  roots,
}: CursorPlace): { readonly root: string; readonly tree: FieldTree | undefined } | undefined {
  const inner = within[within.length - 1];
  if (wanted !== 'field' || inner?.kind !== 'path') return undefined;
  const { root, segments } = inner;
  const name = root.kind === 'current' ? '@' : root.kind === 'whole' ? '$' : root.name;
  return { root: name, tree: treeOf(pathOf(root, segments), roots) };
}

/** What is known of a field by its name, which stands at the cursor. */
export function fieldNamed(place: CursorPlace, name: string): FieldTree | undefined {
  const tree = pathAt(place)?.tree;
  return tree && descend(tree, [name]);
}

/** The field that what is being written is compared with, or is one of a list that it is. */
export function comparedField({ wanted, within, roots }: CursorPlace): FieldTree | undefined {
  const inner = within.findLast(({ kind }) => kind !== 'array');
  if (wanted !== 'expression' || inner?.kind !== 'comparison' || inner.left.kind !== 'path') return undefined;
  return treeOf(inner.left, roots);
}
