import type { NodeId } from '../../../places.ts';
import type { ComparisonOperator, Expression, PathExpression, PathRoot, Segment } from '../../../tree.ts';
import type { Step } from '../tree.ts';

/** A condition, or what is known of it before any row is looked at. */
export type Truth = boolean | Expression;

export const literal = (value: null | boolean | number | string, id: NodeId): Expression => ({ kind: 'literal', value, id });
export const call = (name: string, given: readonly Expression[], id: NodeId): Expression => ({ kind: 'call', name, nameId: id, arguments: given, id }); // prettier-ignore
export const compare = (operator: ComparisonOperator, left: Expression, right: Expression, id: NodeId): Expression => ({ kind: 'comparison', operator, left, right, id }); // prettier-ignore

const segment = (step: Step, id: NodeId): Segment => ({
  descendant: false,
  selectors: [typeof step === 'string' ? { kind: 'name', name: step, id } : { kind: 'index', index: step, id }],
  id,
});
const current: PathRoot = { kind: 'current' };

export function path(steps: readonly Step[], id: NodeId, root = current): PathExpression {
  return { kind: 'path', root, segments: steps.map((step) => segment(step, id)), id };
}
/** The same path gone on with. */
export function onwards(from: PathExpression, segments: readonly Segment[], id: NodeId): PathExpression {
  return { ...from, segments: [...from.segments, ...segments], id };
}
export function stepsOnwards(from: PathExpression, steps: readonly Step[], id: NodeId): PathExpression {
  return onwards(from, steps.map((step) => segment(step, id)), id); // prettier-ignore
}

export function and(id: NodeId, ...parts: readonly Truth[]): Truth {
  return joined('and', false, id, parts);
}
export function or(id: NodeId, ...parts: readonly Truth[]): Truth {
  return joined('or', true, id, parts);
}

/** What decides alone, `decisive`, is the whole; what decides nothing is left out. */
function joined(kind: 'and' | 'or', decisive: boolean, id: NodeId, parts: readonly Truth[]): Truth {
  const operands: Expression[] = [];
  for (const part of parts) {
    if (part === decisive) return decisive;
    if (typeof part === 'boolean') continue;
    if (part.kind === kind) operands.push(...part.operands);
    else operands.push(part);
  }
  return operands.length === 0 ? !decisive : operands.length === 1 ? operands[0]! : { kind, operands, id };
}

export function not(condition: Truth, id: NodeId): Truth {
  if (typeof condition === 'boolean') return !condition;
  return condition.kind === 'not' ? condition.operand : { kind: 'not', operand: condition, id };
}

/** Values that a stage before gives to every row: they may be null, and are not missing. */
const neverMissing = new WeakSet<Expression>();
const neverNull = new WeakSet<Expression>();
/** A field that every row has, as a column of a subquery, a group's key or a count is. */
export function given(names: readonly string[], id: NodeId, isCounted = false): PathExpression {
  const field = path(names, id);
  neverMissing.add(field);
  if (isCounted) neverNull.add(field);
  return field;
}

/** A condition that can be written down. */
export function written(condition: Truth, id: NodeId): Expression {
  return typeof condition === 'boolean' ? compare('==', literal(1, id), literal(condition ? 1 : 0, id), id) : condition;
}

/** Whether a value can be neither missing nor null, whatever the row. */
export function isCertain(value: Expression): boolean {
  switch (value.kind) {
    case 'path':
      // The row itself is there.
      return neverNull.has(value) || (value.segments.length === 0 && value.root.kind === 'current');
    case 'literal':
      return value.value !== null;
    case 'array':
    case 'object':
    case 'comparison':
    case 'in':
    case 'and':
    case 'or':
    case 'not':
      return true;
    case 'call':
      if (value.name === 'coalesce') return value.arguments.some(isCertain);
      if (value.name === 'if') return isCertain(value.arguments[1]!) && isCertain(value.arguments[2]!);
      return value.name === 'now' || value.name === 'type_of';
    default:
      return false;
  }
}

const isNull = (value: Expression | undefined): boolean => value?.kind === 'literal' && value.value === null;

/** Whether a value is null where it would be missing, as a column of an answer is. */
export function isWhole(value: Expression, isColumn = (path: PathExpression): boolean => neverMissing.has(path)): boolean {
  if (isCertain(value) || isNull(value) || (value.kind === 'path' && isColumn(value))) return true;
  if (value.kind !== 'call') return false;
  if (value.name === 'or_null') return true;
  return value.name === 'if' && isWhole(value.arguments[1]!, isColumn) && isWhole(value.arguments[2]!, isColumn);
}

/** The value as a column: NULL is null. */
export function whole(value: Expression, id: NodeId): Expression {
  if (isWhole(value)) return value;
  return call('or_null', [value], id);
}

/** Whether a value is not NULL. */
export function defined(value: Expression, id: NodeId): Truth {
  if (isNull(value)) return false;
  if (isCertain(value)) return true;
  if (value.kind === 'parameter') return compare('!=', value, literal(null, id), id);
  if (value.kind === 'path' && neverMissing.has(value)) return compare('!=', value, literal(null, id), id);
  if (value.kind === 'path' && value.segments.length > 0)
    return and(id, call('exists', [value], id), compare('!=', value, literal(null, id), id));
  return compare('!=', whole(value, id), literal(null, id), id);
}

/** A choice between values, where it is not known already. */
export function choose(condition: Truth, then: Expression, otherwise: Expression, id: NodeId): Expression {
  return typeof condition === 'boolean' ? (condition ? then : otherwise) : call('if', [condition, then, otherwise], id);
}
