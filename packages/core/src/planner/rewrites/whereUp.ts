import type { WhereStage } from '../../language/stages/stage.ts';
import type { Expression } from '../../language/tree.ts';
import { conjunctsOf, joined } from '../conjuncts.ts';
import { isStage, type PlannedStage, type RewriteRule } from '../logical.ts';
import { above, idsOf } from './above.ts';

/**
 * Moves conditions before stages that do not change what they read: what they drop is then not computed, joined,
 * taken apart or sorted, and an index may serve them.
 */
export const whereUp: RewriteRule = (stages) => {
  // Past conditions and marks alone nothing is won: until another stage stands before it, a condition is not looked at.
  let begin = 1;
  while (stages[begin]?.stage.kind === 'where' || stages[begin]?.stage.kind === 'mark') begin++;
  for (let at = begin + 1; at < stages.length; at++) {
    const here = stages[at];
    if (!isStage(here, 'where')) continue;
    let to = at;
    const conjuncts = conjunctsOf(here.stage.condition, here.id);
    let moved = conjuncts.map(({ expression }): Expression | undefined => expression);
    // As far up as one of them goes; the others stay where they are.
    while (to > 1) {
      const before = stages[to - 1]!;
      const next = moved.map((condition) => condition && above(condition, before.stage));
      if (next.every((condition) => condition === undefined)) break;
      moved = next;
      to--;
    }
    if (stages.slice(to, at).every(({ stage }) => stage.kind === 'where' || stage.kind === 'mark')) continue;
    const staying = conjuncts.filter((_, i) => moved[i] === undefined);
    const goes = moved.filter((condition) => condition !== undefined);
    const condition = goes.length === 1 ? goes[0]! : ({ kind: 'and', operands: goes, id: here.stage.condition.id } as const);
    const up: PlannedStage<WhereStage> = { ...here, uncounted: true, stage: { kind: 'where', condition } };
    const rest = joined(staying);
    const left: PlannedStage =
      rest === undefined ? { ...here, stage: { kind: 'mark' } } : { ...here, stage: { kind: 'where', condition: rest } };
    return {
      stages: [...stages.slice(0, to), up, ...stages.slice(to, at), left, ...stages.slice(at + 1)],
      told: {
        detail: (say) => `${say.expression(condition)} is tested before ${say.stages(idsOf(stages.slice(to, at)))}`,
        stages: [here.id],
      },
    };
  }
  return undefined;
};
