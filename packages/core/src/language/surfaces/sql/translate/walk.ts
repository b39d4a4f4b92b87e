import type { SqlExpression } from '../tree.ts';

/** Visits an expression and those inside it, outermost first; what stands in subqueries is of those. */
export function walkSql(node: SqlExpression, visit: (node: SqlExpression) => void): void {
  visit(node);
  for (const key in node) if (key !== 'query' && key !== 'path') walkWithin(node[key as keyof SqlExpression], visit);
}

function walkWithin(value: unknown, visit: (node: SqlExpression) => void): void {
  if (Array.isArray(value)) for (const item of value as unknown[]) walkWithin(item, visit);
  else if (typeof value === 'object' && value !== null) {
    if ('kind' in value && 'id' in value) walkSql(value as SqlExpression, visit);
    else for (const inner of Object.values(value)) walkWithin(inner, visit);
  }
}

export function findAll<K extends SqlExpression['kind']>(
  roots: readonly SqlExpression[],
  kind: K,
): (SqlExpression & { readonly kind: K })[] {
  const found: (SqlExpression & { readonly kind: K })[] = [];
  for (const root of roots) {
    walkSql(root, (node) => {
      if (node.kind === kind) found.push(node as SqlExpression & { readonly kind: K });
    });
  }
  return found;
}

const texts = new WeakMap<SqlExpression, string>();

/** What is the same for expressions that are written the same, wherever they stand. */
export function textOf(node: SqlExpression): string {
  let text = texts.get(node);
  if (text === undefined) texts.set(node, (text = withoutPlaces(node)));
  return text;
}

function withoutPlaces(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(withoutPlaces).join()}]`;
  if (typeof value !== 'object' || value === null) return JSON.stringify(value);
  let text = '{';
  for (const [key, inner] of Object.entries(value)) if (key !== 'id' && inner !== undefined) text += `${key}:${withoutPlaces(inner)},`;
  return `${text}}`;
}

/** The conditions that must all be true for one to be. */
export function conjuncts(condition: SqlExpression | undefined): readonly SqlExpression[] {
  if (condition === undefined) return [];
  if (condition.kind === 'is' && condition.what === 'true') return conjuncts(condition.operand);
  if (condition.kind === 'not') {
    const { operand } = condition;
    if (operand.kind === 'not') return conjuncts(operand.operand);
    if (operand.kind === 'or') return operand.operands.flatMap((one) => conjuncts({ ...condition, operand: one }));
  }
  return condition.kind === 'and' ? condition.operands.flatMap(conjuncts) : [condition];
}
