import { isStage, type RewriteRule } from '../logical.ts';
import { carriesOrder, isMultiplying, replacesOrder, traitsOf } from '../traits.ts';

/** Drops an order that a later one replaces before anything depends on it: ties go by insertion order either way. */
export const orderDropped: RewriteRule = (stages) => {
  for (const [at, here] of stages.entries()) {
    if (!isStage(here, 'order')) continue;
    // Several rows of one document tie in the order in which they come, which an order before has a say in.
    if (stages.slice(0, at).some(({ stage }) => isMultiplying(stage))) return undefined;
    const rest = stages.slice(at + 1);
    const end = rest.findIndex(({ stage }) => !carriesOrder(stage));
    const later = rest[end];
    if (later === undefined || !replacesOrder(later.stage)) continue;
    if (traitsOf(later.stage).gives(later.stage) !== 'new' && rest.slice(0, end).some(({ stage }) => isMultiplying(stage))) continue;
    return {
      stages: [...stages.slice(0, at), { ...here, stage: { kind: 'mark' } }, ...stages.slice(at + 1)],
      told: { detail: ({ stages }) => `${stages([later.id])} does not look at this order`, stages: [here.id] },
    };
  }
  return undefined;
};
