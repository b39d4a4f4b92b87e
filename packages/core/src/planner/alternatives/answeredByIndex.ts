import type { AskedSource } from '../askedSource.ts';
import { costs } from '../cost.ts';
import type { LayContext } from '../layers/layer.ts';
import { layRest } from '../layOut.ts';
import type { LineSource, PhysicalPlan, PhysicalStep } from '../physical.ts';
import type { PlanOptions } from '../planRequest.ts';
import type { GroupAllStage, GroupStage } from '../../language/stages/stage.ts';
import type { Insistence } from '../insisting.ts';
import { answeredGroup, type AnsweredGroup } from './indexAggregates.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import type { IndexStatistics } from '../statistics.ts';

/** A group right after the conditions that an index answers by itself; the group's stage, and what comes after it. */
export interface Answered extends AnsweredGroup {
  readonly group: PlannedStage<GroupStage | GroupAllStage>;
  readonly after: readonly PlannedStage[];
}

/** The group that comes right after the conditions. */
export function groupThatFollows(following: readonly PlannedStage[]): Answered['group'] | undefined {
  const first = following.find(({ stage }) => stage.kind !== 'mark');
  return isStage(first, 'group') || isStage(first, 'groupAll') ? first : undefined;
}

/** The group that comes right after the conditions, where an index answers it by itself. */
export function answeredByIndex(
  { source, question, following }: AskedSource,
  considered: readonly IndexStatistics[],
  { options, insisted }: { readonly options: PlanOptions; readonly insisted: Insistence },
): Answered | undefined {
  if (options.withoutRules?.includes('index-only') || !insisted.allows('aggregate')) return undefined;
  const group = groupThatFollows(following);
  if (group === undefined) return undefined;
  const allowed = considered.filter(({ definition }) => insisted.allowsIndex(definition.name));
  const found = answeredGroup(source, allowed, question, group);
  return found && { ...found, group, after: following.slice(following.indexOf(group) + 1) };
}

/** Lays what follows upon an index that answers the first group by itself. */
export function planAnswered(
  { from, wheres }: AskedSource,
  { step: found, group, after, entries }: Answered,
  context: LayContext,
): PhysicalPlan {
  const inner = [from, ...wheres.filter(({ uncounted }) => !uncounted)].map(({ id }) => id);
  const step: PhysicalStep = {
    ...found,
    inner,
    cost: found.by === undefined ? costs.start : entries * costs.lookup,
    stages: [...inner, group.id],
    estimatedRows: found.by === undefined ? 1 : entries,
  };
  const counted: LineSource[] = [...inner.map((id): LineSource => ({ id, step, counts: 'inner' })), { id: group.id, step, counts: 'out' }];
  return { root: layRest(step, after, undefined, context, counted), stages: counted };
}
