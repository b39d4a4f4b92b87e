import type { OrderKey, OrderStage } from '../../language/stages/stage.ts';
import { isStage, type PlannableStage, type PlannedStage, type RewriteRule } from '../logical.ts';
import { above, idsOf } from './above.ts';
import { givesEachRow } from '../traits.ts';

/**
 * Moves order before stages that give each row in its turn and do not make its keys: fewer rows are sorted, and those
 * are documents as they are, or an index gives them in order. Rows that come of one document stay together either way.
 */
export const orderUp: RewriteRule = (stages) => {
  for (let at = 2; at < stages.length; at++) {
    const here = stages[at];
    if (!isStage(here, 'order')) continue;
    let to = at;
    let keys = here.stage.keys;
    while (to > 1 && givesEachRow(stages[to - 1]!.stage)) {
      const moved = keysAbove(keys, stages[to - 1]!.stage);
      if (moved === undefined) break;
      keys = moved;
      to--;
    }
    const passed = stages.slice(to, at);
    if (passed.every(({ stage }) => stage.kind === 'mark')) continue;
    const up: PlannedStage<OrderStage> = { ...here, stage: { ...here.stage, keys } };
    return {
      stages: [...stages.slice(0, to), up, ...passed, { ...here, stage: { kind: 'mark' } }, ...stages.slice(at + 1)],
      told: { detail: ({ stages }) => `rows are put in order before ${stages(idsOf(passed))}`, stages: [here.id] },
    };
  }
  return undefined;
};

/** The keys of an order as they read before a stage; undefined where it makes one of them. */
export function keysAbove(keys: readonly OrderKey[], stage: PlannableStage): readonly OrderKey[] | undefined {
  const moved = keys.map((key) => ({ key, expression: above(key.expression, stage) }));
  return moved.every(({ expression }) => expression !== undefined)
    ? moved.map(({ key, expression }) => ({ ...key, expression: expression as OrderKey['expression'] }))
    : undefined;
}
