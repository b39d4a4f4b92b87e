import { isStage, type PlannableStage, type PlannedStage, type RewriteRule } from '../logical.ts';

/** Stages that give one row for each, in the same order. */
export const rowForRow: ReadonlySet<PlannableStage['kind']> = new Set(['select', 'omit', 'compute', 'gatherJoin', 'mark']);

/** Moves limit before stages that give one row for each: rows that are not wanted are not made. */
export const limitUp: RewriteRule = (stages) => {
  for (let at = 2; at < stages.length; at++) {
    const here = stages[at];
    if (!isStage(here, 'limit')) continue;
    let to = at;
    while (to > 1 && rowForRow.has(stages[to - 1].stage.kind)) to--;
    const passed = stages.slice(to, at).filter(({ stage }) => stage.kind !== 'mark');
    if (passed.length === 0) continue;
    const up: PlannedStage = { ...here, uncounted: true };
    const mark: PlannedStage = { ...here, stage: { kind: 'mark' } };
    return {
      stages: [...stages.slice(0, to), up, ...stages.slice(to, at), mark, ...stages.slice(at + 1)],
      told: {
        detail: `rows are counted off before line${passed.length === 1 ? '' : 's'} ${passed.map(({ line }) => line).join(', ')}`,
        lines: [here.line],
      },
    };
  }
  return undefined;
};
