import { adviseOn, adviseOnGroup, type Suggestion } from '../advice/advice.ts';
import { askedSource, collectionAt, type AskedSource } from '../askedSource.ts';
import { tell, tellAnswered } from '../explain/tell.ts';
import type { Weighed } from '../explain/reasons.ts';
import type { Insistence } from '../insisting.ts';
import type { LayContext, SourceLookup } from '../layers/layer.ts';
import { withWordsCounted } from '../layers/countWords.ts';
import { layOut } from '../layOut.ts';
import type { PlannedStage, Rewrite } from '../logical.ts';
import { weigh, type WeighedPaths } from '../paths/weigh.ts';
import type { PhysicalStep } from '../physical.ts';
import { PlanToldWhenRead } from '../planned.ts';
import type { PlanOptions } from '../planRequest.ts';
import type { Alternative } from './alternative.ts';
import { answeredByIndex, groupThatFollows, planAnswered, type Answered } from './answeredByIndex.ts';

/** What the layers of one plan are given. */
export interface Planning {
  readonly lookup: SourceLookup;
  readonly options: PlanOptions;
  readonly insisted: Insistence;
  /** Plans the stages of a view that is joined. */
  readonly planView: (stages: readonly PlannedStage[]) => PhysicalStep;
}

/**
 * The stages in the order in which they stand, upon the path to their documents that costs least; or upon an index that answers
 * the group they begin with, which reads no document.
 * @param done the rewrites that were made before
 * @param about so many documents will be taken, where the stages after them do not say for sure
 * @throws WayRefused where a kind of path is insisted on that there is none of
 */
export function planAsWritten(stages: readonly PlannedStage[], done: readonly Rewrite[], planning: Planning, about?: number): Alternative {
  const { options, insisted } = planning;
  const asked = askedSource(stages, planning.lookup, options, about);
  const weighed = weigh(asked, options, insisted);
  const answered = answeredByIndex(asked, weighed.considered, planning);
  if (weighed.isRefused && answered === undefined) throw insisted.refusal();
  const joins: Weighed[] = [];
  const rewrites: Rewrite[] = [...done];
  const context = contextOf(asked, planning, joins, rewrites);
  const ownIndex = answered ?? (weighed.chosen.covering === undefined ? undefined : weighed.chosen);
  if (ownIndex !== undefined)
    rewrites.push({
      rule: 'index-only',
      detail: `all that is asked stands in ${ownIndex.statistics?.definition.name ?? ''}, so no document is read`,
      stages: [asked.from.id],
    });
  const laid = answered === undefined ? layOut(asked, weighed.chosen, context) : planAnswered(asked, answered, context);
  const physical = withWordsCounted(laid, stages, asked.source);
  const planned = new PlanToldWhenRead(physical, rewrites, {
    suggestions: () => (options.whatIf?.length || answered ? [] : adviceFor(asked, weighed)),
    weighed: () => [...pathsTold(asked, weighed, answered), ...joins],
  });
  const { chosen } = weighed;
  return { planned, asked, chosen, givesOrder: chosen.match?.ordered?.left.length === 0 };
}

function contextOf(asked: AskedSource, planning: Planning, weighed: Weighed[], rewrites: Rewrite[]): LayContext {
  const { options, insisted, lookup, planView } = planning;
  return {
    constant: asked.constant,
    countOf: asked.countOf,
    source: asked.source,
    collection: (name, at) => collectionAt(lookup, name, at),
    planView,
    indexIsAllowed: (name) => !options.ignoreIndexes?.includes(name),
    byIndex: insisted.byIndex,
    isNamed: (name) => insisted.names(name),
    weighed,
    rewrites,
    keepsUsed: !options.withoutRules?.includes('used fields alone'),
    mayFuse: !options.withoutRules?.includes('unnest joined to group'),
  };
}

function adviceFor(asked: AskedSource, { chosen }: WeighedPaths): Suggestion[] {
  const { source, question, selectivity, constant } = asked;
  const group = groupThatFollows(asked.following);
  const byItself = group && adviseOnGroup(source, question, chosen, group);
  return byItself ? [byItself] : adviseOn(source, question, chosen, selectivity, constant);
}

function pathsTold(
  { source, question, from, wheres, order }: AskedSource,
  weighed: WeighedPaths,
  answered: Answered | undefined,
): Weighed[] {
  const { chosen, paths, useless } = weighed;
  const stages = [from, ...wheres, ...(chosen.match?.ordered && order ? [order] : [])].map(({ id }) => id);
  const told = tell(source, question, { chosen, ways: paths, useless }, stages);
  return answered === undefined ? told : tellAnswered(source, answered, told);
}
