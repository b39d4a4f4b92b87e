import { walk, type Expression } from '../../../tree.ts';
import { Unsaid, type ExpressionWriter, type Placed, type Row } from './writer.ts';

/** Conditions of a join: that a partner's side equals the row's holds for no missing one, as SQL's does. */
export function joinText(conditions: readonly Expression[], row: Row, write: ExpressionWriter): string {
  const isPartner = (one: Expression): boolean => one.kind === 'path' && one.root.kind === 'partner';
  const isRow = (one: Expression): boolean => {
    let found = false;
    walk(one, (node) => (found ||= isPartner(node)));
    return !found && one.kind !== 'literal';
  };
  const keys = conditions.filter(
    (one) =>
      one.kind === 'comparison' &&
      one.operator === '==' &&
      ((isPartner(one.left) && isRow(one.right)) || (isPartner(one.right) && isRow(one.left))),
  );
  const keyTexts = keys.map((one) => (one.kind === 'comparison' ? `${write.value(one.left, row)} = ${write.value(one.right, row)}` : ''));
  const rest = conditions.filter((one) => !keys.includes(one));
  const [first, ...more] = rest;
  if (first === undefined) return keyTexts.join(' AND ');
  const text = write.condition(more.length === 0 ? first : { kind: 'and', operands: rest, id: first.id }, row);
  return [...keyTexts, more.length === 0 && first.kind === 'or' ? `(${text})` : text].join(' AND ');
}

/** What a gather join makes: only whether there is a match can be said, not the matches as an array. */
export function gathered(name: string, source: string, on: string | undefined): Placed {
  const text = (): never => {
    throw new Unsaid('the array that gather join makes: join and group instead');
  };
  const existence = `EXISTS (SELECT 1 FROM ${source}${on === undefined ? '' : ` WHERE ${on}`})`;
  return { at: [name], text, kind: text, json: text, isColumn: () => false, existence };
}
