import { children, isSingle, type Expression } from '../../language/tree.ts';
import type { Conjunct } from '../conjuncts.ts';
import type { Selectivity } from '../source.ts';

/** About what one evaluation costs, in units of comparing a field with a literal. */
function effort(expression: Expression): number {
  const own =
    expression.kind === 'call' ? (slow.has(expression.name) ? 12 : 3) : expression.kind === 'path' && !isSingle(expression) ? 6 : 1;
  return children(expression).reduce((sum, child) => sum + effort(child), own);
}

const slow = new Set([
  'match',
  'search',
  'fold',
  'distance',
  'date_trunc',
  'date_add',
  'date_diff',
  'date_part',
  'instant',
  'sorted_of',
  'distinct_of',
]);

/**
 * Conditions in the order in which they are tested: what costs little and drops much first, so that dear ones see
 * only what is left. The order of predicates by cost over what they drop is Hellerstein's (1994).
 */
export function cheapFirst(conjuncts: readonly Conjunct[], selectivity: Selectivity): readonly Conjunct[] {
  if (conjuncts.length < 2) return conjuncts;
  const rank = (conjunct: Conjunct) => effort(conjunct.expression) / Math.max(0.01, 1 - selectivity.of([conjunct]));
  const ranked = conjuncts.map((conjunct) => ({ conjunct, rank: rank(conjunct) }));
  return ranked.sort((a, b) => a.rank - b.rank).map(({ conjunct }) => conjunct);
}
