import { isStage, type PlannableStage, type RewriteRule } from '../logical.ts';
import { namesAll, traitsOf } from '../traits.ts';
import { stageReads, touches } from './reads.ts';

/** Drops computed fields that no later line reads, where a later line keeps only fields that it names. */
export const unusedDropped: RewriteRule = (stages) => {
  for (const [at, here] of stages.entries()) {
    if (!isStage(here, 'compute')) continue;
    const later = stages.slice(at + 1);
    const end = later.findIndex(({ stage }) => namesAll(stage));
    if (end < 0) continue;
    const seen = later.slice(0, end + 1).map(({ stage }) => stage);
    const unused = here.stage.assignments.find(
      ({ target }, i) =>
        // Later assignments of the same line may read it; what overwrites a field changes what others see.
        i === here.stage.assignments.length - 1 &&
        !seen.some((stage) => touches(stageReads(stage), [target]) || (!namesAll(stage) && writes(stage, target))),
    );
    if (unused === undefined) continue;
    const assignments = here.stage.assignments.filter((one) => one !== unused);
    const stage: PlannableStage = assignments.length === 0 ? { kind: 'mark' } : { kind: 'compute', assignments };
    return {
      stages: [...stages.slice(0, at), { ...here, stage }, ...later],
      told: { detail: ({ name }) => `${name(unused.target)} is not computed: no later line reads it`, stages: [here.id] },
    };
  }
  return undefined;
};

/** Whether a stage puts something inside the field, or needs it to be an object. */
function writes(stage: PlannableStage, target: readonly string[]): boolean {
  return touches(traitsOf(stage).writes(stage), [target]);
}
