import { children, type Expression, type PathExpression, type Segment } from '../../language/tree.ts';

/**
 * An expression with some of its paths replaced.
 * @param change what stands in a path's place; undefined to leave it
 */
export function withPaths(
  expression: Expression,
  change: (path: PathExpression, inFilter: boolean) => Expression | undefined,
  inFilter = false,
): Expression {
  if (expression.kind === 'path') {
    const replaced = change(expression, inFilter);
    if (replaced !== undefined) return replaced;
    const segments = expression.segments.map((segment): Segment => {
      if (!segment.selectors.some(({ kind }) => kind === 'filter')) return segment;
      return {
        ...segment,
        selectors: segment.selectors.map((selector) =>
          selector.kind === 'filter' ? { ...selector, condition: withPaths(selector.condition, change, true) } : selector,
        ),
      };
    });
    return { ...expression, segments };
  }
  if (children(expression).length === 0) return expression;
  const inner = (child: Expression, elements = false) => withPaths(child, change, inFilter || elements);
  switch (expression.kind) {
    case 'negation':
    case 'not':
      return { ...expression, operand: inner(expression.operand) };
    case 'arithmetic':
    case 'comparison':
    case 'in':
      return { ...expression, left: inner(expression.left), right: inner(expression.right) };
    case 'and':
    case 'or':
      return { ...expression, operands: expression.operands.map((operand) => inner(operand)) };
    case 'array':
      return { ...expression, items: expression.items.map((item) => inner(item)) };
    case 'object':
      return { ...expression, entries: expression.entries.map(({ name, value }) => ({ name, value: inner(value) })) };
    case 'call': {
      const loops = expression.name === 'each' || expression.name === 'any' || expression.name === 'every';
      return { ...expression, arguments: expression.arguments.map((argument, i) => inner(argument, loops && i === 1)) };
    }
    default:
      return expression;
  }
}

/** Whether a path begins at the row. */
export function isOfRow({ root }: PathExpression, inFilter: boolean): boolean {
  return root.kind === 'whole' || (root.kind === 'current' && !inFilter);
}

/** The names by which a path begins, as far as they are names. */
export function leadingNames(path: PathExpression): string[] {
  const names: string[] = [];
  for (const { descendant, selectors } of path.segments) {
    const [selector] = selectors;
    if (descendant || selectors.length !== 1 || selector.kind !== 'name') break;
    names.push(selector.name);
  }
  return names;
}

/** A path from another one on: what it has beyond its first `skip` segments follows. */
export function continued(base: PathExpression, path: PathExpression, skip: number): PathExpression {
  return { ...base, from: path.from, to: path.to, segments: [...base.segments, ...path.segments.slice(skip)] };
}
