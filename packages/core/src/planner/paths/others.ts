import { kindOf } from '../../indexes/kinds.ts';
import type { PlanOptions } from '../planRequest.ts';
import type { PositionsIndex } from '../positionsIndex.ts';
import type { PlannedSource } from '../source.ts';
import { imaginedPositions } from '../statistics.ts';

/** Indexes of other kinds than the ordered one that may be used: those that are built, and those that are planned against. */
export function whatIfOthers(source: PlannedSource, { whatIf = [], ignoreIndexes }: PlanOptions): readonly PositionsIndex[] {
  const imagined = whatIf.filter((definition) => kindOf(definition).access.by !== 'order').map((definition) => imaginedPositions(definition, source.sample())); // prettier-ignore
  return [...source.others, ...imagined].filter(({ definition }) => !ignoreIndexes?.includes(definition.name));
}
