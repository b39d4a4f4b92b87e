import { aggregates, type Aggregate } from '../../language/functions/aggregates.ts';
import { isStage, type PlannableStage, type RewriteRule } from '../logical.ts';

/** Stages through which an order passes without being looked at. */
const passing: ReadonlySet<PlannableStage['kind']> = new Set([
  'where', 'select', 'omit', 'compute', 'unnest', 'join', 'leftJoin', 'gatherJoin', 'rank', 'denseRank', 'rowNumber', 'mark',
]); // prettier-ignore

const multiplying: ReadonlySet<PlannableStage['kind']> = new Set(['unnest', 'join', 'leftJoin']);

/** Drops an order that a later one replaces before anything depends on it: ties go by insertion order either way. */
export const orderDropped: RewriteRule = (stages) => {
  for (const [at, here] of stages.entries()) {
    if (!isStage(here, 'order')) continue;
    // Several rows of one document tie in the order in which they come, which an order before has a say in.
    if (stages.slice(0, at).some(({ stage }) => multiplying.has(stage.kind))) return undefined;
    const rest = stages.slice(at + 1);
    const end = rest.findIndex(({ stage }) => !passing.has(stage.kind));
    const later = rest[end];
    if (later === undefined || !replaces(later.stage)) continue;
    if (later.stage.kind === 'order' && rest.slice(0, end).some(({ stage }) => multiplying.has(stage.kind))) continue;
    return {
      stages: [...stages.slice(0, at), { ...here, stage: { kind: 'mark' } }, ...stages.slice(at + 1)],
      told: { detail: `line ${later.line} does not look at this order`, lines: [here.line] },
    };
  }
  return undefined;
};

function looksAtOrder({ ordered, picks }: Aggregate): boolean {
  return ordered || picks === true;
}

function replaces(stage: PlannableStage): boolean {
  if (stage.kind === 'groupAll') return !stage.measures.some(({ aggregate }) => looksAtOrder(aggregates[aggregate]));
  return stage.kind === 'order';
}
