import type { ComparisonOperator, Expression } from '../../../tree.ts';
import type { SqlExpression } from '../tree.ts';
import { and, call, compare, defined, isCertain, literal, not, or, whole, type Truth } from './build.ts';
import { likeTest } from './like.ts';
import type { Meaning, NodeId } from './meaning.ts';

/**
 * SQL's three-valued logic (ISO/IEC 9075-2, 8.2 and 6.39) without a third value: whether a predicate is true. What is neither true
 * nor false is in neither.
 */
export function truthOf(node: SqlExpression, m: Meaning): Truth {
  const { id } = node;
  switch (node.kind) {
    case 'literal':
      return node.value === true;
    case 'and':
      return and(id, ...node.operands.map(m.isTrue));
    case 'or':
      return or(id, ...node.operands.map(m.isTrue));
    case 'not':
      return m.isFalse(node.operand);
    case 'compare':
      return compared(node.operator, m.value(node.left), m.value(node.right), id);
    case 'same':
      return alike('==', m.value(node.left), m.value(node.right), id);
    case 'between': {
      const operand = m.value(node.operand);
      return and(id, compared('>=', operand, m.value(node.low), id), compared('<=', operand, m.value(node.high), id));
    }
    case 'in':
      return isIn(m.value(node.operand), node.items.map(m.value), id);
    case 'inQuery':
    case 'exists':
      return m.subquery(node).isTrue;
    case 'like':
      return likeTest(m.value(node.operand), node, id, m);
    case 'is':
      return isTest(node, m);
    case 'json':
      if (node.what === 'exists') return call('exists', [m.value(node)], id);
  }
  return flag(node, true, m);
}

/** Whether a predicate is false. */
export function falsehoodOf(node: SqlExpression, m: Meaning): Truth {
  const { id } = node;
  switch (node.kind) {
    case 'literal':
      return node.value === false;
    case 'and':
      return or(id, ...node.operands.map(m.isFalse));
    case 'or':
      return and(id, ...node.operands.map(m.isFalse));
    case 'not':
      return m.isTrue(node.operand);
    case 'compare':
      return compared(opposite[node.operator], m.value(node.left), m.value(node.right), id);
    case 'same':
      return alike('!=', m.value(node.left), m.value(node.right), id);
    case 'between': {
      const operand = m.value(node.operand);
      return or(id, compared('<', operand, m.value(node.low), id), compared('>', operand, m.value(node.high), id));
    }
    case 'in':
      return isNotIn(m.value(node.operand), node.items.map(m.value), id);
    case 'inQuery':
    case 'exists':
      return m.subquery(node).isFalse();
    case 'like': {
      const operand = m.value(node.operand);
      return and(id, compare('==', call('type_of', [operand], id), literal('text', id), id), not(likeTest(operand, node, id, m), id));
    }
    case 'is':
      return not(isTest(node, m), id);
    case 'json':
      if (node.what === 'exists') return and(id, defined(m.value(node.argument), id), not(call('exists', [m.value(node)], id), id));
  }
  return flag(node, false, m);
}

/** A value that is to be true or false itself. */
function flag(node: SqlExpression, wanted: boolean, m: Meaning): Truth {
  return compare('==', m.value(node), literal(wanted, node.id), node.id);
}

const opposite: Readonly<Record<ComparisonOperator, ComparisonOperator>> = {
  '==': '!=',
  '!=': '==',
  '<': '>=',
  '<=': '>',
  '>': '<=',
  '>=': '<',
};

/** Whether a comparison is true. The notation's `==`, `<=` and `>=` hold for what is missing or null on both sides; SQL's do not. */
function compared(operator: ComparisonOperator, left: Expression, right: Expression, id: NodeId): Truth {
  const test = compare(operator, left, right, id);
  switch (operator) {
    case '<':
    case '>':
      return test;
    case '!=':
      return and(id, test, defined(left, id), defined(right, id));
    default:
      if (isCertain(left) || isCertain(right)) return test;
      // Where they are equal, one of them tells of both: the shorter test.
      return and(id, test, defined(right.kind === 'parameter' || left.kind !== 'path' ? right : left, id));
  }
}

/** Of the same value, NULL being one. */
function alike(operator: '==' | '!=', left: Expression, right: Expression, id: NodeId): Truth {
  const known = isNull(right) ? left : isNull(left) ? right : undefined;
  if (known !== undefined) return operator === '!=' ? defined(known, id) : not(defined(known, id), id);
  const side = (value: Expression, other: Expression): Expression => (isCertain(other) ? value : whole(value, id));
  return compare(operator, side(left, right), side(right, left), id);
}

const isConstant = (item: Expression): boolean => item.kind === 'literal' && item.value !== null;
const isNull = (item: Expression): boolean => item.kind === 'literal' && item.value === null;

function isIn(operand: Expression, items: readonly Expression[], id: NodeId): Truth {
  const constants = items.filter(isConstant);
  const rest = items.filter((item) => !isConstant(item) && !isNull(item));
  const among: Truth = constants.length === 0 ? false : { kind: 'in', left: operand, right: { kind: 'array', items: constants, id }, id };
  return or(id, among, ...rest.map((item) => compared('==', operand, item, id)));
}

function isNotIn(operand: Expression, items: readonly Expression[], id: NodeId): Truth {
  if (items.some(isNull)) return false;
  const constants = items.filter(isConstant);
  const rest = items.filter((item) => !isConstant(item));
  const among: Truth = constants.length === 0 ? false : { kind: 'in', left: operand, right: { kind: 'array', items: constants, id }, id };
  return and(id, defined(operand, id), not(among, id), ...rest.map((item) => compared('!=', operand, item, id)));
}

function isTest(node: SqlExpression & { kind: 'is' }, m: Meaning): Truth {
  const { id, operand } = node;
  switch (node.what) {
    case 'null':
      return isPredicate(operand) ? not(or(id, m.isTrue(operand), m.isFalse(operand)), id) : not(defined(m.value(operand), id), id);
    case 'true':
      return m.isTrue(operand);
    case 'false':
      return m.isFalse(operand);
    case 'unknown':
      return not(or(id, m.isTrue(operand), m.isFalse(operand)), id);
  }
}

/** Whether an expression gives true, false or unknown by its form. */
export function isPredicate(node: SqlExpression): boolean {
  switch (node.kind) {
    case 'and':
    case 'or':
    case 'not':
    case 'compare':
    case 'same':
    case 'between':
    case 'in':
    case 'inQuery':
    case 'exists':
    case 'like':
    case 'is':
      return true;
    default:
      return node.kind === 'json' && node.what === 'exists';
  }
}
