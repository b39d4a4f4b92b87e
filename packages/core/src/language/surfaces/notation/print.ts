import type { ArithmeticOperator, Expression, PathExpression, Segment, Selector } from '../../tree.ts';

/** How tightly each form binds; a looser form inside a tighter one stands in brackets. */
const binding: Record<Expression['kind'], number> = {
  or: 1, and: 2, not: 3, comparison: 4, in: 4, arithmetic: 5, negation: 7,
  literal: 8, parameter: 8, path: 8, call: 8, array: 8, object: 8,
}; // prettier-ignore
const arithmeticBinding: Record<ArithmeticOperator, number> = { '+': 5, '-': 5, '*': 6, '/': 6, '%': 6 };

function bindingOf(expression: Expression): number {
  return expression.kind === 'arithmetic' ? arithmeticBinding[expression.operator] : binding[expression.kind];
}

/** The one canonical text of an expression. Parsing it gives the same tree again. */
export function printExpression(expression: Expression): string {
  switch (expression.kind) {
    case 'literal':
      return printLiteral(expression.value);
    case 'parameter':
      return ':' + expression.name;
    case 'path':
      return printPath(expression);
    case 'negation':
      return '-' + within(expression.operand, 7);
    case 'not':
      // Only a test, a call or brackets may follow; all of those bind tightest.
      return '!' + within(expression.operand, 8);
    case 'arithmetic': {
      const own = arithmeticBinding[expression.operator];
      return `${within(expression.left, own)} ${expression.operator} ${within(expression.right, own + 1)}`;
    }
    case 'comparison':
      return `${within(expression.left, 5)} ${expression.operator} ${within(expression.right, 5)}`;
    case 'in':
      return `${within(expression.left, 5)} in ${within(expression.right, 5)}`;
    case 'and':
      return expression.operands.map((operand) => within(operand, 3)).join(' && ');
    case 'or':
      return expression.operands.map((operand) => within(operand, 2)).join(' || ');
    case 'call':
      return `${expression.name}(${expression.arguments.map(printExpression).join(', ')})`;
    case 'array':
      return `[${expression.items.map(printExpression).join(', ')}]`;
    case 'object':
      return `{${expression.entries.map(({ name, value }) => `${printName(name)}: ${printExpression(value)}`).join(', ')}}`;
  }
}

function within(expression: Expression, least: number): string {
  const text = printExpression(expression);
  return bindingOf(expression) < least ? `(${text})` : text;
}

export function printLiteral(value: null | boolean | number | string): string {
  return Object.is(value, -0) ? '-0' : JSON.stringify(value);
}

const plainName = /^[A-Za-z_\u0080-\ud7ff\ue000-\u{10ffff}][A-Za-z0-9_\u0080-\ud7ff\ue000-\u{10ffff}]*$/u;

/** Whether a name can stand bare after a dot, as a field of a row, or as an object's key. */
export function isPlainlyWritten(name: string): boolean {
  return plainName.test(name);
}

function printName(name: string): string {
  return isPlainlyWritten(name) ? name : JSON.stringify(name);
}

export function printPath(path: PathExpression): string {
  const root = path.root.kind === 'current' ? '@' : path.root.kind === 'whole' ? '$' : path.root.name;
  return root + path.segments.map(printSegment).join('');
}

function printSegment({ descendant, selectors }: Segment): string {
  const dots = descendant ? '..' : '';
  const [only] = selectors;
  if (selectors.length === 1 && only.kind === 'name' && isPlainlyWritten(only.name)) return (dots || '.') + only.name;
  if (selectors.length === 1 && only.kind === 'wildcard' && descendant) return '..*';
  return `${dots}[${selectors.map(printSelector).join(', ')}]`;
}

function printSelector(selector: Selector): string {
  switch (selector.kind) {
    case 'name':
      return quotedName(selector.name);
    case 'wildcard':
      return '*';
    case 'index':
      return String(selector.index);
    case 'slice': {
      const step = selector.step === 1 ? '' : `:${selector.step}`;
      return `${selector.start ?? ''}:${selector.end ?? ''}${step}`;
    }
    case 'filter':
      return '?' + printExpression(selector.condition);
  }
}

function quotedName(name: string): string {
  const inner = JSON.stringify(name).slice(1, -1).replace(/\\"/g, '"').replace(/'/g, "\\'");
  return `'${inner}'`;
}

/** The path of a field by its names, as it is written: `@.party.size`, `@['first-name']`. */
export function pathText(names: readonly string[], root = '@'): string {
  return root + names.map((name) => (isPlainlyWritten(name) ? '.' + name : `[${quotedName(name)}]`)).join('');
}
