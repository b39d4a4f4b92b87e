import { expressionsOf } from '../../language/checkPipeline.ts';
import { relevanceCalls } from '../../language/relevancePlace.ts';
import { definitionOf } from '../../language/stages/registry.ts';
import { isJoin, type FromStage, type GroupStage, type JoinStage, type OrderStage } from '../../language/stages/stage.ts';
import { isStage, type PlannedStage } from '../../planner/logical.ts';
import { goesByItself } from '../../planner/views/answeredByView.ts';

/** A pipeline whose rows can follow each change of what it reads, taken apart at its group and its order. */
export interface Followed {
  readonly from: PlannedStage<FromStage>;
  /** What is done with each document for itself; it begins with the source. */
  readonly rowWise: readonly PlannedStage[];
  readonly group: PlannedStage<GroupStage> | undefined;
  /** What is done with each row of the group for itself. */
  readonly afterGroup: readonly PlannedStage[];
  readonly order: PlannedStage<OrderStage> | undefined;
  /** What is done with each row once they are in order. */
  readonly afterOrder: readonly PlannedStage[];
}

export type AnyJoin = PlannedStage<JoinStage<'join'> | JoinStage<'leftJoin'> | JoinStage<'gatherJoin'>>;

export function isJoinStage(planned: PlannedStage): planned is AnyJoin {
  return planned.stage.kind !== 'mark' && isJoin(planned.stage);
}

const aRowEach = new Set<PlannedStage['stage']['kind']>(['where', 'select', 'omit', 'compute']);

/**
 * Takes a pipeline apart so that its kept rows can follow each change of a document, with views in their places.
 * @returns why not, where they cannot: they are worked out afresh then
 */
export function followed(stages: readonly PlannedStage[]): Followed | string {
  const [from, ...rest] = stages;
  if (!isStage(from, 'from')) return 'it names no collection';
  const never = goesByItself(stages);
  if (never !== undefined) return never;
  const rowWise: PlannedStage[] = [from];
  let group: Followed['group'];
  let order: Followed['order'];
  const afterGroup: PlannedStage[] = [];
  const afterOrder: PlannedStage[] = [];
  for (const one of rest) {
    const { stage } = one;
    if (stage.kind === 'mark') continue;
    const text = definitionOf(stage.kind).print(stage as never);
    if (relevanceCalls(expressionsOf(stage)).length > 0) return `"${text}" weighs words by the whole collection`;
    if (aRowEach.has(stage.kind)) (order !== undefined ? afterOrder : group !== undefined ? afterGroup : rowWise).push(one);
    else if (isStage(one, 'order') && order === undefined) order = one;
    else if (isStage(one, 'group') && group === undefined && order === undefined) group = one;
    else if ((isJoinStage(one) || stage.kind === 'unnest') && group === undefined && order === undefined) {
      if (isJoinStage(one) && one.partner !== undefined) return `"${text}" joins a view that is read through`;
      if (isJoinStage(one) && one.stage.source === from.stage.source) return `"${text}" joins the collection with itself`;
      rowWise.push(one);
    } else return `"${text}" depends on rows that do not change`;
  }
  return { from, rowWise, group, afterGroup, order, afterOrder };
}
