import type { Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { isCertain as isNeverNull, isWhole as isNeverMissing } from '../translate/build.ts';
import type { Row } from './writer.ts';

export const isNull = (value: Expression): boolean => value.kind === 'literal' && value.value === null;

/** Whether a value is never NULL, whatever the row. */
export function isCertain(expression: Expression, row: Row): boolean {
  if (isNeverNull(expression)) return true;
  return expression.kind === 'path' && expression.segments.length > 0 && row.find(expression).place.isCounted === true;
}

/** Whether a condition says of a value that it is not null, and of which. */
export function definedIn(
  operands: readonly Expression[],
  i: number,
  row: Row,
): { readonly value: Expression; readonly takes: number } | undefined {
  const [one, next] = [operands[i], operands[i + 1]];
  const notNull = (test: Expression | undefined): Expression | undefined => (test?.kind === 'comparison' && test.operator === '!=' && isNull(test.right) ? test.left : undefined); // prettier-ignore
  if (one?.kind === 'call' && one.name === 'exists') {
    const of = notNull(next);
    return of !== undefined && printExpression(of) === printExpression(one.arguments[0]!) ? { value: of, takes: 2 } : undefined;
  }
  const of = one && notNull(one);
  if (of === undefined) return undefined;
  const isWhole = of.kind === 'parameter' || (of.kind === 'call' && of.name === 'or_null') || (of.kind === 'path' && isColumn(of, row));
  return isWhole ? { value: of.kind === 'call' ? of.arguments[0]! : of, takes: 1 } : undefined;
}

/** Whether a value is null where it would be missing. */
export const isWhole = (value: Expression, row: Row): boolean =>
  isNeverMissing(value, (path) => path.segments.length > 0 && isColumn(path, row));

export const isColumn = (path: Expression & { kind: 'path' }, row: Row): boolean => {
  const { place, steps } = row.find(path);
  return place.isColumn(steps);
};

/** The value of which a condition says that it is a text. */
export function textIn(one: Expression | undefined): Expression | undefined {
  if (one?.kind !== 'comparison' || one.operator !== '==' || one.left.kind !== 'call' || one.left.name !== 'type_of') return undefined;
  return one.right.kind === 'literal' && one.right.value === 'text' ? one.left.arguments[0] : undefined;
}
