import type { Comparison, Membership, PathExpression } from './tree.ts';
import type { Words } from './words.ts';

/** `@.nights[*].fee == 40` asked rightly: `@.nights[?@.fee == 40]`. */
export function asFilter(
  path: PathExpression,
  { kind, ...comparison }: Comparison | Membership,
  side: 'left' | 'right',
  words: Words,
): string | undefined {
  const several = path.segments.findLastIndex(
    ({ selectors, descendant }) => descendant || selectors.length !== 1 || !['name', 'index'].includes(selectors[0]!.kind),
  );
  const segment = path.segments[several]!;
  if (segment.descendant || segment.selectors.length !== 1 || segment.selectors[0]!.kind !== 'wildcard') return undefined;
  const element = words.expression({ ...path, root: { kind: 'current' }, segments: path.segments.slice(several + 1) });
  const operator = kind === 'in' ? 'in' : (comparison as Comparison).operator;
  const inner =
    side === 'left'
      ? `${element} ${operator} ${words.expression(comparison.right)}`
      : `${words.expression(comparison.left)} ${operator} ${element}`;
  return `${words.expression({ ...path, segments: path.segments.slice(0, several) })}[?${inner}]`;
}
