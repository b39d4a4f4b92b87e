import { beginningWith, comparedTo, present, type Interval } from '../../indexes/ordered/cuts.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import { nowhere } from '../../language/places.ts';
import { changingPart, fromCurrent } from '../../language/rowRoots.ts';
import { isConstant } from '../../language/constant.ts';
import { isSingle, type Call, type ComparisonOperator, type Expression, type PathExpression, type Segment } from '../../language/tree.ts';
import { keyOf } from '../../values/keys.ts';
import { readPattern } from '../../values/iRegexp.ts';
import type { Value } from '../../values/json.ts';
import type { Conjunct } from '../conjuncts.ts';

/** What a condition says of one key that an index may have. */
export interface KeyCondition {
  readonly conjunct: Conjunct;
  /** The canonical text of the key: a path, a computed key, or `path[*]…` for array elements. */
  readonly keyText: string;
  readonly key: Expression;
  readonly asks:
    | { readonly kind: 'points'; readonly points: readonly Value[] }
    | { readonly kind: 'interval'; readonly interval: Interval }
    /** That it is not there: documents without a key have an entry where they have one of the keys before it. */
    | { readonly kind: 'missing' };
  /** Whether the entries found are just the rows for which the condition holds, so that it need not be tested again. */
  readonly exact: boolean;
}

/** The value of an expression that is the same for all rows. */
export type Constant = (expression: Expression) => Value;

const flipped: Record<ComparisonOperator, ComparisonOperator> = { '==': '==', '!=': '!=', '<': '>', '<=': '>=', '>': '<', '>=': '<=' };

/**
 * What a condition asks of keys, by the table "Which forms an index on a key can serve" of the notation. Empty
 * where no index can serve it.
 */
export function keyConditionsOf(conjunct: Conjunct, constant: Constant): KeyCondition[] {
  const { expression } = conjunct;
  switch (expression.kind) {
    case 'comparison':
      return [
        ...compared(conjunct, expression.left, expression.operator, expression.right, constant),
        ...compared(conjunct, expression.right, flipped[expression.operator], expression.left, constant),
      ];
    case 'in':
      return membership(conjunct, expression.left, expression.right, constant);
    case 'or':
      return alternatives(conjunct, expression.operands, constant);
    case 'path':
      return existence(conjunct, expression, constant);
    case 'call':
      return called(conjunct, expression, constant);
    case 'not':
      return absence(conjunct, expression.operand);
    default:
      return [];
  }
}

const keyTexts = new WeakMap<Expression, string>();

/** A key as it is written; at the top level `$` and `@` are the same row. */
export function keyTextOf(key: Expression): string {
  let text = keyTexts.get(key);
  if (text === undefined) keyTexts.set(key, (text = printExpression(fromCurrent(key))));
  return text;
}

/** Whether an index may have an expression as its key: it has one value for a row, and always the same. */
export function isKey(expression: Expression): boolean {
  if (isConstant(expression) || changingPart(expression) !== undefined) return false;
  return !(expression.kind === 'path' && (!isSingle(expression) || expression.segments.length === 0));
}

function points(conjunct: Conjunct, key: Expression, values: readonly Value[], exact: boolean): KeyCondition[] {
  const different = new Map(values.filter((value) => value !== undefined).map((value) => [keyOf(value), value]));
  return [{ conjunct, key, keyText: keyTextOf(key), asks: { kind: 'points', points: [...different.values()] }, exact }];
}

function interval(conjunct: Conjunct, key: Expression, asked: Interval | undefined, exact: boolean): KeyCondition[] {
  if (asked === undefined) return points(conjunct, key, [], exact);
  return [{ conjunct, key, keyText: keyTextOf(key), asks: { kind: 'interval', interval: asked }, exact }];
}

function compared(
  conjunct: Conjunct,
  key: Expression,
  operator: ComparisonOperator,
  other: Expression,
  constant: Constant,
): KeyCondition[] {
  if (!isKey(key) || !isConstant(other) || operator === '!=') return [];
  const value = constant(other);
  // Equality with nothing asks for what has no entry.
  if (value === undefined) return [];
  if (operator === '==') return points(conjunct, key, [value], true);
  return interval(conjunct, key, comparedTo(operator, value), true);
}

function membership(conjunct: Conjunct, left: Expression, right: Expression, constant: Constant): KeyCondition[] {
  if (isKey(left) && isConstant(right)) {
    const list = constant(right);
    return Array.isArray(list) ? points(conjunct, left, list, true) : [];
  }
  if (isConstant(left) && right.kind === 'path' && isSingle(right)) {
    const value = constant(left);
    return value === undefined ? [] : points(conjunct, elementsOf(right), [value], false);
  }
  return [];
}

/** `a == 1 || a == 2` asks for two points of one key. */
function alternatives(conjunct: Conjunct, operands: readonly Expression[], constant: Constant): KeyCondition[] {
  const each = operands.map((expression) => keyConditionsOf({ ...conjunct, expression }, constant));
  return each[0]!.flatMap((first) => {
    const same = each.map((conditions) => conditions.find(({ keyText, asks }) => keyText === first.keyText && asks.kind === 'points'));
    if (same.some((condition) => condition === undefined)) return [];
    const values = same.flatMap((condition) => (condition?.asks.kind === 'points' ? condition.asks.points : []));
    return points(
      conjunct,
      first.key,
      values,
      same.every((condition) => condition?.exact),
    );
  });
}

/** The key with an entry for every element of an array: `path[*]`. */
function elementsOf(path: PathExpression, further: PathExpression['segments'] = []): PathExpression {
  const all: Segment = { descendant: false, selectors: [{ kind: 'wildcard', id: nowhere }], id: nowhere };
  return { ...path, root: { kind: 'current' }, segments: [...path.segments, all, ...further] };
}

function existence(conjunct: Conjunct, path: PathExpression, constant: Constant): KeyCondition[] {
  if (isSingle(path)) return path.segments.length === 0 ? [] : interval(conjunct, path, present, true);
  // `@.nights[?@.fee > 40]`: an entry of `@.nights[*].fee` for each element that fits, the rest tested again.
  const last = path.segments[path.segments.length - 1]!;
  const [selector] = last.selectors;
  const array = { ...path, segments: path.segments.slice(0, -1) };
  if (last.descendant || last.selectors.length !== 1 || selector.kind !== 'filter' || !isSingle(array)) return [];
  const inner = selector.condition.kind === 'and' ? selector.condition.operands : [selector.condition];
  return inner
    .flatMap((expression) =>
      keyConditionsOf({ ...conjunct, expression }, constant)
        .filter(({ key }) => key.kind === 'path' && key.root.kind === 'current' && isSingle(key))
        .map((condition): KeyCondition => {
          const key = elementsOf(array, (condition.key as PathExpression).segments);
          return { ...condition, conjunct, key, keyText: keyTextOf(key), exact: false };
        }),
    )
    .concat(elementItself(conjunct, array, inner, constant));
}

function absence(conjunct: Conjunct, operand: Expression): KeyCondition[] {
  if (operand.kind !== 'path' || !isSingle(operand) || operand.segments.length === 0) return [];
  return [{ conjunct, key: operand, keyText: keyTextOf(operand), asks: { kind: 'missing' }, exact: true }];
}

/** `@.tags[?@ == "x"]`: the element itself is compared. */
function elementItself(conjunct: Conjunct, array: PathExpression, inner: readonly Expression[], constant: Constant): KeyCondition[] {
  return inner.flatMap((expression) => {
    if (expression.kind !== 'comparison') return [];
    const sides = [
      { element: expression.left, operator: expression.operator, other: expression.right },
      { element: expression.right, operator: flipped[expression.operator], other: expression.left },
    ];
    return sides.flatMap(({ element, operator, other }) => {
      if (element.kind !== 'path' || element.root.kind !== 'current' || element.segments.length > 0 || !isConstant(other)) return [];
      const value = constant(other);
      if (operator === '!=' || value === undefined) return [];
      const key = elementsOf(array);
      return operator === '==' ? points(conjunct, key, [value], false) : interval(conjunct, key, comparedTo(operator, value), false);
    });
  });
}

function called(conjunct: Conjunct, { name, arguments: given }: Call, constant: Constant): KeyCondition[] {
  const [first, second] = given;
  if (first === undefined) return [];
  const constantSecond = second !== undefined && isConstant(second) ? constant(second) : undefined;
  switch (name) {
    case 'exists':
      return first.kind === 'path' ? existence(conjunct, first, constant) : [];
    case 'starts_with':
      return isKey(first) && typeof constantSecond === 'string' ? interval(conjunct, first, beginningWith(constantSecond), true) : [];
    case 'match':
      return isKey(first) && typeof constantSecond === 'string' ? patternPrefix(conjunct, first, constantSecond) : [];
    case 'includes':
      return first.kind === 'path' && isSingle(first) && constantSecond !== undefined
        ? points(conjunct, elementsOf(first), [constantSecond], false)
        : [];
    case 'includes_all':
      return first.kind === 'path' && isSingle(first) && Array.isArray(constantSecond) && constantSecond.length > 0
        ? points(conjunct, elementsOf(first), [constantSecond[0]], false)
        : [];
    default:
      return [];
  }
}

function patternPrefix(conjunct: Conjunct, key: Expression, pattern: string): KeyCondition[] {
  const read = readPattern(pattern);
  return 'problem' in read || read.prefix === '' ? [] : interval(conjunct, key, beginningWith(read.prefix), false);
}
