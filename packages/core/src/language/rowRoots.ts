import { withPaths } from './substitute.ts';
import { walk, type Expression } from './tree.ts';

/** An expression on a row with `@` wherever `$` means the same: outside of filters and of what is done with elements. */
export function fromCurrent(expression: Expression): Expression {
  return withPaths(expression, (path, { inFilter }) =>
    path.root.kind === 'whole' && !inFilter ? { ...path, root: { kind: 'current' } } : undefined,
  );
}

/** The first part of an expression that is not the same for ever: a parameter, or the time of the run. */
export function changingPart(expression: Expression): Expression | undefined {
  let found: Expression | undefined;
  walk(expression, (node) => {
    if (node.kind === 'parameter' || (node.kind === 'call' && node.name === 'now')) found ??= node;
  });
  return found;
}
