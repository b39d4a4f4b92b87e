import { emptyTree, openTree, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { checkValue, type Scope } from '../checkExpression.ts';
import { treeOf } from '../followPath.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { isPlainlyWritten, printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import type { NodeId } from '../places.ts';
import { fieldNames, type Expression } from '../tree.ts';
import type { SelectItem, SelectStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { covers, no, none, readIn, type Chain, type Made } from './traits.ts';

export const select: StageDefinition<SelectStage> = {
  words: ['select'],
  doc: 'Keeps only these fields. A path stays where it was; an expression is put under a name with as.',
  example: 'select @.id, @.party.size, @.nights[0].date as arrival',
  parse: (reader) => ({ kind: 'select', items: commaSeparated(reader, () => parseSelectItem(reader)) }),
  print: ({ items }) => `select ${items.map(printSelectItem).join(', ')}`,
  expressions: ({ items }) => items.map((item) => item.expression),
  traits: {
    gives: () => 'one',
    decidedBy: 'row',
    order: 'kept',
    looksAtOrder: no,
    keepsOnly: ({ items }) => items,
    worksOnParts: true,
    writes: ({ items }) => items.map(({ target }) => target),
    source: none,
    made: ({ items }, field) => {
      const made = madeByItem(items, field, 'put there from');
      // A path that stays where it was is passed on.
      return made?.isPath && made.from.length === 1 && made.from[0]!.join('\n') === field.join('\n') ? undefined : made;
    },
  },
  check: ({ items }, scope) => {
    for (const { expression } of items) checkValue(expression, scope);
    rejectOverlaps(items, scope);
  },
  effect: ({ items }, before) =>
    items.reduce<FieldTree>((tree, { expression, target }) => withSubtree(tree, target, shapeOf(expression, before)), emptyTree),
};

/** How a field was made that is kept under a name, or inside it. */
export function madeByItem(items: readonly SelectItem[], field: Chain, words: string): (Made & { readonly isPath: boolean }) | undefined {
  const item = items.find(({ target }) => covers(target, field));
  if (item === undefined) return undefined;
  const { expression, target } = item;
  const isPath = expression.kind === 'path';
  const rest = field.slice(target.length);
  const from = readIn(expression).map((one) => (isPath ? [...one, ...rest] : one));
  return { text: `${words} ${printExpression(expression)}`, from, sources: [], isPath };
}

export function parseSelectItem(reader: Reader): SelectItem {
  const start = reader.token;
  const expression = parseExpression(reader);
  if (reader.takeWord('as')) {
    const { names } = parseGivenName(reader);
    return { expression, target: names, named: true, ...reader.placeFrom(start) };
  }
  const names = expression.kind === 'path' && expression.root.kind !== 'partner' ? fieldNames(expression) : undefined;
  if (names === undefined || names.length === 0) return reader.reject(findings.needsName(reader.spanFrom(start), suggestion(expression)));
  return { expression, target: names, named: false, ...reader.placeFrom(start) };
}

/** A name for what has none: the last field of its path, or what it is. */
function suggestion(expression: Expression): string {
  if (expression.kind === 'path') {
    const named = expression.segments.flatMap(({ selectors }) => selectors).filter((selector) => selector.kind === 'name');
    const last = named[named.length - 1]?.name;
    if (last !== undefined && isPlainlyWritten(last)) return last;
  }
  return expression.kind === 'call' ? expression.name : 'value';
}

export function printSelectItem({ expression, target, named }: SelectItem): string {
  return printExpression(expression) + (named ? ` as ${printGivenName(target)}` : '');
}

/** Two targets may not be the same, nor one stand inside the other. */
export function rejectOverlaps(items: readonly { readonly target: readonly string[]; readonly id: NodeId }[], scope: Scope): void {
  items.forEach((later, i) => {
    const clash = items.slice(0, i).some(({ target }) => {
      const shared = Math.min(target.length, later.target.length);
      return target.slice(0, shared).every((name, k) => name === later.target[k]);
    });
    if (clash) scope.report(findings.sameName(scope.at(later), scope.words.name(later.target)));
  });
}

/** What a value looks like, as far as it is known. */
export function shapeOf(expression: Expression, before: FieldTree): FieldTree {
  if (expression.kind !== 'path') return openTree;
  return treeOf(expression, { current: before, whole: before }) ?? openTree;
}
