import type { Kind } from '../../values/kind.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { isSingle, type ComparisonOperator, type Expression } from '../tree.ts';

/** A test of a field as a form offers it: how it is called, for which types, and its text. */
export interface ConditionTest {
  readonly label: string;
  readonly types: readonly Kind[];
  readonly takes: 'value' | 'list' | 'two' | 'condition' | 'none';
  /** The text of the test of a field; values are texts of expressions. */
  readonly write: (field: string, value: string) => string;
  /** The field and the value where an expression is this test. */
  readonly read: (expression: Expression) => { readonly field: string; readonly value: string } | undefined;
}

const anyType: readonly Kind[] = ['text', 'number', 'boolean', 'null', 'array', 'object'];

function isField(expression: Expression): boolean {
  return expression.kind === 'path' && expression.root.kind === 'current' && isSingle(expression) && expression.segments.length > 0;
}

function comparison(label: string, operator: ComparisonOperator, types: readonly Kind[]): ConditionTest {
  return {
    label,
    types,
    takes: 'value',
    write: (field, value) => `${field} ${operator} ${value}`,
    read: (expression) =>
      expression.kind === 'comparison' && expression.operator === operator && isField(expression.left)
        ? { field: printExpression(expression.left), value: printExpression(expression.right) }
        : undefined,
  };
}

/** A call whose first argument is the field and whose second is the value. */
function call(label: string, name: string, types: readonly Kind[], takes: 'value' | 'list' = 'value'): ConditionTest {
  return {
    label,
    types,
    takes,
    write: (field, value) => `${name}(${field}, ${value})`,
    read: (expression) => {
      if (expression.kind !== 'call' || expression.name !== name || expression.arguments.length !== 2) return undefined;
      const [first, second] = expression.arguments as [Expression, Expression];
      return isField(first) ? { field: printExpression(first), value: printExpression(second) } : undefined;
    },
  };
}

/** The tests that forms offer, in their order. Reading tries them in turn. */
export const conditionTests = {
  is: comparison('is', '==', anyType),
  isNot: comparison('is not', '!=', anyType),
  oneOf: {
    label: 'is one of',
    types: ['text', 'number', 'boolean', 'null'],
    takes: 'list',
    write: (field, value) => `${field} in ${value}`,
    read: (expression) =>
      expression.kind === 'in' && isField(expression.left)
        ? { field: printExpression(expression.left), value: printExpression(expression.right) }
        : undefined,
  },
  atLeast: comparison('is at least', '>=', ['number', 'text']),
  atMost: comparison('is at most', '<=', ['number', 'text']),
  above: comparison('is above', '>', ['number', 'text']),
  below: comparison('is below', '<', ['number', 'text']),
  between: {
    label: 'is between',
    types: ['number', 'text'],
    takes: 'two',
    write: (field, value) => {
      const [low, high] = splitPair(value);
      return `(${field} >= ${low} && ${field} <= ${high})`;
    },
    read: (expression) => {
      if (expression.kind !== 'and' || expression.operands.length !== 2) return undefined;
      const [low, high] = expression.operands as [Expression, Expression];
      if (low.kind !== 'comparison' || high.kind !== 'comparison' || low.operator !== '>=' || high.operator !== '<=') return undefined;
      const field = printExpression(low.left);
      if (!isField(low.left) || field !== printExpression(high.left)) return undefined;
      return { field, value: `[${printExpression(low.right)}, ${printExpression(high.right)}]` };
    },
  },
  beginsWith: call('begins with', 'starts_with', ['text']),
  contains: call('contains', 'contains', ['text']),
  endsWith: call('ends with', 'ends_with', ['text']),
  matches: call('fits the pattern', 'match', ['text']),
  anyElement: call('has an element that is', 'includes', ['array']),
  hasAll: call('has all of', 'includes_all', ['array'], 'list'),
  lengthIs: {
    label: 'has so many elements',
    types: ['array'],
    takes: 'value',
    write: (field, value) => `length(${field}) == ${value}`,
    read: (expression) => {
      if (expression.kind !== 'comparison' || expression.operator !== '==') return undefined;
      const { left, right } = expression;
      if (left.kind !== 'call' || left.name !== 'length' || left.arguments.length !== 1 || !isField(left.arguments[0]!)) return undefined;
      return { field: printExpression(left.arguments[0]!), value: printExpression(right) };
    },
  },
  elementWhere: {
    label: 'has an element where',
    types: ['array'],
    takes: 'condition',
    write: (field, value) => `${field}[?${value}]`,
    read: (expression) => {
      if (expression.kind !== 'path') return undefined;
      const list = { ...expression, segments: expression.segments.slice(0, -1) };
      const last = expression.segments.at(-1);
      if (last === undefined || last.descendant || last.selectors.length !== 1 || !isField(list)) return undefined;
      const [selector] = last.selectors;
      return selector.kind === 'filter' ? { field: printExpression(list), value: printExpression(selector.condition) } : undefined;
    },
  },
  isThere: {
    label: 'is there',
    types: anyType,
    takes: 'none',
    write: (field) => field,
    read: (expression) => (isField(expression) ? { field: printExpression(expression), value: '' } : undefined),
  },
  isMissing: {
    label: 'is missing',
    types: anyType,
    takes: 'none',
    write: (field) => `!${field}`,
    read: (expression) =>
      expression.kind === 'not' && isField(expression.operand) ? { field: printExpression(expression.operand), value: '' } : undefined,
  },
} satisfies Record<string, ConditionTest>;

export type ConditionTestName = keyof typeof conditionTests;

/** The two expressions of a text `[a, b]`. */
export function splitPair(value: string): [string, string] {
  const inner = value.trim().replace(/^\[|\]$/g, '');
  let depth = 0;
  let quoted = false;
  for (let i = 0; i < inner.length; i++) {
    const sign = inner[i]!;
    if (quoted && sign === '\\') i++;
    else if (sign === '"') quoted = !quoted;
    else if (quoted) continue;
    else if ('([{'.includes(sign)) depth++;
    else if (')]}'.includes(sign)) depth--;
    else if (sign === ',' && depth === 0) return [inner.slice(0, i).trim() || 'null', inner.slice(i + 1).trim() || 'null'];
  }
  return [inner.trim() || 'null', 'null'];
}
