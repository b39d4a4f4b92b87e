import type { GroupAllStage, GroupStage } from '../language/stages/stage.ts';
import type { Insistence } from './insisting.ts';
import { answeredGroup, type AnsweredGroup } from './indexAggregates.ts';
import { isStage, type PlannedStage } from './logical.ts';
import type { PlannedSource } from './source.ts';
import type { IndexStatistics } from './statistics.ts';
import type { Question } from './ways.ts';

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

export function answeredBy(
  source: PlannedSource,
  considered: readonly IndexStatistics[],
  question: Question,
  following: readonly PlannedStage[],
  insisted: Insistence,
): Answered | undefined {
  const group = groupThatFollows(following);
  if (group === undefined) return undefined;
  const allowed = considered.filter(({ definition }) => insisted.allowsIndex(definition.name));
  const found = answeredGroup(source, allowed, question, group);
  return found && { ...found, group, after: following.slice(following.indexOf(group) + 1) };
}
