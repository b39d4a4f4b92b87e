import { aggregates } from '../../language/functions/aggregates.ts';
import { isStage, type PlannableStage, type RewriteRule } from '../logical.ts';

/** Stages through which an order passes without being looked at. */
const passing: ReadonlySet<PlannableStage['kind']> = new Set([
  'where', 'select', 'omit', 'compute', 'unnest', 'join', 'leftJoin', 'gatherJoin', 'rank', 'denseRank', 'rowNumber', 'mark',
]); // prettier-ignore

/** Drops an order that a later one replaces before anything depends on it: ties go by insertion order either way. */
export const orderDropped: RewriteRule = (stages) => {
  for (const [at, here] of stages.entries()) {
    if (!isStage(here, 'order')) continue;
    const later = stages.slice(at + 1).find(({ stage }) => !passing.has(stage.kind));
    if (later === undefined || !replaces(later.stage)) continue;
    return {
      stages: [...stages.slice(0, at), { ...here, stage: { kind: 'mark' } }, ...stages.slice(at + 1)],
      told: { detail: `line ${later.line} does not look at this order`, lines: [here.line] },
    };
  }
  return undefined;
};

function replaces(stage: PlannableStage): boolean {
  if (stage.kind === 'groupAll') return !stage.measures.some(({ aggregate }) => aggregates[aggregate].ordered);
  return stage.kind === 'order';
}
