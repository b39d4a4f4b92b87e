import type { Several } from '../values/several.ts';
import type { Identified, NodeId } from './places.ts';

/** The tree of an expression. No node knows of text: where each stands is in the side table of its reading. */
export type Expression =
  | Literal
  | Parameter
  | PathExpression
  | Negation
  | Not
  | Arithmetic
  | Comparison
  | Membership
  | Logical
  | Call
  | ArrayLiteral
  | ObjectLiteral;

export interface Literal extends Identified {
  readonly kind: 'literal';
  readonly value: null | boolean | number | string;
}
export interface Parameter extends Identified {
  readonly kind: 'parameter';
  readonly name: string;
}
/** A path; its root is the current row or element, the whole row, or a join partner by its name. */
export interface PathExpression extends Identified {
  readonly kind: 'path';
  readonly root: PathRoot;
  readonly segments: readonly Segment[];
}
export type PathRoot = { readonly kind: 'current' } | { readonly kind: 'whole' } | { readonly kind: 'partner'; readonly name: string };

export interface Segment extends Identified {
  readonly descendant: boolean;
  readonly selectors: Several<Selector>;
}
export type Selector = Identified &
  (
    | { readonly kind: 'name'; readonly name: string }
    | { readonly kind: 'wildcard' }
    | { readonly kind: 'index'; readonly index: number }
    | { readonly kind: 'slice'; readonly start?: number; readonly end?: number; readonly step: number }
    | { readonly kind: 'filter'; readonly condition: Expression }
  );

export interface Negation extends Identified {
  readonly kind: 'negation';
  readonly operand: Expression;
}
export interface Not extends Identified {
  readonly kind: 'not';
  readonly operand: Expression;
}
export type ArithmeticOperator = '+' | '-' | '*' | '/' | '%';
export interface Arithmetic extends Identified {
  readonly kind: 'arithmetic';
  readonly operator: ArithmeticOperator;
  readonly left: Expression;
  readonly right: Expression;
}
export type ComparisonOperator = '==' | '!=' | '<' | '<=' | '>' | '>=';
export interface Comparison extends Identified {
  readonly kind: 'comparison';
  readonly operator: ComparisonOperator;
  readonly left: Expression;
  readonly right: Expression;
}
export interface Membership extends Identified {
  readonly kind: 'in';
  readonly left: Expression;
  readonly right: Expression;
}
/** `&&` or `||` over two operands or more, so that a long chain is not a deep tree. */
export interface Logical extends Identified {
  readonly kind: 'and' | 'or';
  readonly operands: readonly Expression[];
}
export interface Call extends Identified {
  readonly kind: 'call';
  readonly name: string;
  readonly nameId: NodeId;
  readonly arguments: readonly Expression[];
}
export interface ArrayLiteral extends Identified {
  readonly kind: 'array';
  readonly items: readonly Expression[];
}
export interface ObjectLiteral extends Identified {
  readonly kind: 'object';
  readonly entries: readonly { readonly name: string; readonly value: Expression }[];
}

/** A path that can select one node at most: names and indexes only. Known from the text. */
export function isSingle(path: PathExpression): boolean {
  return path.segments.every(
    (segment) =>
      !segment.descendant &&
      segment.selectors.length === 1 &&
      (segment.selectors[0]!.kind === 'name' || segment.selectors[0]!.kind === 'index'),
  );
}

/** The field names of a path that is names only, from its root; undefined for any other path. */
export function fieldNames(path: PathExpression): string[] | undefined {
  const names: string[] = [];
  for (const segment of path.segments) {
    const selector = segment.selectors[0]!;
    if (segment.descendant || segment.selectors.length !== 1 || selector.kind !== 'name') return undefined;
    names.push(selector.name);
  }
  return names;
}

/** Whether an expression is a condition by its form: it gives true or false and never another value. */
export function isCondition(expression: Expression, isConditionCall: (name: string) => boolean): boolean {
  switch (expression.kind) {
    case 'comparison':
    case 'in':
    case 'and':
    case 'or':
    case 'not':
      return true;
    case 'call':
      return isConditionCall(expression.name);
    default:
      return false;
  }
}

/** The expressions directly inside one, filters of its paths among them. */
export function children(expression: Expression): readonly Expression[] {
  switch (expression.kind) {
    case 'literal':
    case 'parameter':
      return [];
    case 'path':
      return expression.segments.flatMap((segment) =>
        segment.selectors.flatMap((selector) => (selector.kind === 'filter' ? [selector.condition] : [])),
      );
    case 'negation':
    case 'not':
      return [expression.operand];
    case 'arithmetic':
    case 'comparison':
    case 'in':
      return [expression.left, expression.right];
    case 'and':
    case 'or':
      return expression.operands;
    case 'call':
      return expression.arguments;
    case 'array':
      return expression.items;
    case 'object':
      return expression.entries.map((entry) => entry.value);
  }
}

/** Visits an expression and everything inside it, outermost first. */
export function walk(expression: Expression, visit: (node: Expression) => void): void {
  visit(expression);
  for (const child of children(expression)) walk(child, visit);
}

/** The names of the parameters in an expression, each once. */
export function parametersIn(expression: Expression): string[] {
  const names = new Set<string>();
  walk(expression, (node) => {
    if (node.kind === 'parameter') names.add(node.name);
  });
  return [...names];
}
