import { mapSeveral } from '../values/several.ts';
import { signatureOf } from './functions/signatures.ts';
import { children, type Expression, type PathExpression, type Segment } from './tree.ts';

/** Where a path stands: what `@` is there, and whether its nodes are asked for or the value that they make. */
export interface PathPlace {
  /** In a filter, or in what each, any or every do with elements: `@` is an element. */
  readonly inFilter: boolean;
  /** The path is a condition by itself, or the argument of a function that takes nodes, like `exists`. */
  readonly asNodes: boolean;
}

/** What stands in the place of a path, whose filters have been changed already; undefined to leave it. */
export type PathChange = (path: PathExpression, place: PathPlace) => Expression | undefined;

/**
 * An expression with some of its paths replaced.
 * @param place where the expression itself stands
 */
export function withPaths(expression: Expression, change: PathChange, place: PathPlace = { inFilter: false, asNodes: false }): Expression {
  if (expression.kind === 'path') {
    // What stands in its filters is changed whatever becomes of the path itself.
    const inside = expression.segments.some(hasFilter) ? { ...expression, segments: filtersWithPaths(expression, change) } : expression;
    return change(inside, place) ?? inside;
  }
  if (children(expression).length === 0) return expression;
  const { inFilter } = place;
  const value = (child: Expression) => withPaths(child, change, { inFilter, asNodes: false });
  const condition = (child: Expression) => withPaths(child, change, { inFilter, asNodes: true });
  switch (expression.kind) {
    case 'negation':
      return { ...expression, operand: value(expression.operand) };
    case 'not':
      return { ...expression, operand: condition(expression.operand) };
    case 'arithmetic':
    case 'comparison':
    case 'in':
      return { ...expression, left: value(expression.left), right: value(expression.right) };
    case 'and':
    case 'or':
      return { ...expression, operands: expression.operands.map(condition) };
    case 'array':
      return { ...expression, items: expression.items.map(value) };
    case 'object':
      return { ...expression, entries: expression.entries.map((entry) => ({ name: entry.name, value: value(entry.value) })) };
    case 'call':
      return {
        ...expression,
        arguments: expression.arguments.map((argument, i) => withPaths(argument, change, argumentPlace(expression.name, i, inFilter))),
      };
    default:
      return expression;
  }
}

/** The segments of a path with some of the paths in their filters replaced. */
function filtersWithPaths({ segments }: PathExpression, change: PathChange): readonly Segment[] {
  return segments.map((segment) =>
    hasFilter(segment)
      ? {
          ...segment,
          selectors: mapSeveral(segment.selectors, (selector) =>
            selector.kind === 'filter'
              ? { ...selector, condition: withPaths(selector.condition, change, { inFilter: true, asNodes: true }) }
              : selector,
          ),
        }
      : segment,
  );
}

function hasFilter({ selectors }: Segment): boolean {
  return selectors.some(({ kind }) => kind === 'filter');
}

function argumentPlace(name: string, at: number, inFilter: boolean): PathPlace {
  const kind = signatureOf(name)?.parameters.at(at)?.kind ?? 'value';
  return {
    inFilter: inFilter || kind === 'each' || kind === 'test',
    asNodes: kind === 'nodes' || kind === 'condition' || kind === 'test',
  };
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
  return { ...base, id: path.id, segments: [...base.segments, ...path.segments.slice(skip)] };
}
