import { kindOf } from '../../indexes/kinds.ts';
import type { Scoring } from '../../indexes/kind.ts';
import type { Expression } from '../../language/tree.ts';
import { isConstant } from '../../language/constant.ts';
import type { PositionsIndex } from '../positionsIndex.ts';

/** How an index of a kind that gives scores does so. */
export function scoringOf({ definition }: Pick<PositionsIndex, 'definition'>): Scoring<PositionsIndex['index']> | undefined {
  const { access } = kindOf(definition);
  return access.by === 'positions' ? access.scoring : undefined;
}

/** The index that gives what an expression scores. */
export function scoringIndex(indexes: readonly PositionsIndex[], expression: Expression): PositionsIndex | undefined {
  return indexes.find((index) => scoringOf(index)?.serves(index.definition, expression, isConstant) === true);
}
