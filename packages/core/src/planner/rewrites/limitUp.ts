import { isStage, type PlannedStage, type RewriteRule } from '../logical.ts';
import { idsOf } from './above.ts';
import { isRowForRow } from '../traits.ts';

/** Moves limit and offset before stages that give one row for each: rows that are not wanted are not made. */
export const limitUp: RewriteRule = (stages) => {
  for (let at = 2; at < stages.length; at++) {
    const here = stages[at];
    if (!isStage(here, 'limit') && !isStage(here, 'offset')) continue;
    let to = at;
    while (to > 1 && isRowForRow(stages[to - 1]!.stage)) to--;
    const passed = stages.slice(to, at);
    if (passed.every(({ stage }) => stage.kind === 'mark')) continue;
    const up: PlannedStage = { ...here, uncounted: true };
    const mark: PlannedStage = { ...here, stage: { kind: 'mark' } };
    return {
      stages: [...stages.slice(0, to), up, ...passed, mark, ...stages.slice(at + 1)],
      told: { detail: ({ stages }) => `rows are counted off before ${stages(idsOf(passed))}`, stages: [here.id] },
    };
  }
  return undefined;
};
