import type { PlacedStage } from '../../../pipeline.ts';
import type { SelectItem } from '../../../stages/stage.ts';

/** Whether a stage brings another table into a row. */
export const addsTable = ({ stage }: PlacedStage): boolean =>
  stage?.kind === 'unnest' || stage?.kind === 'join' || stage?.kind === 'leftJoin' || stage?.kind === 'gatherJoin';

/** The item of a select that gives the whole row under a name. */
export function wholeRowIn(stages: readonly PlacedStage[]): SelectItem | undefined {
  const items = stages.flatMap(({ stage }) => (stage?.kind === 'select' ? stage.items : []));
  return items.find(({ expression }) => expression.kind === 'path' && expression.segments.length === 0);
}

/** The names that stages put at the top of a row. */
export function targetsIn(stages: readonly PlacedStage[]): ReadonlySet<string> {
  const names = stages.flatMap(({ stage }) =>
    stage !== undefined && 'target' in stage && 'names' in stage.target ? stage.target.names.slice(0, 1) : [],
  );
  return new Set(names);
}
