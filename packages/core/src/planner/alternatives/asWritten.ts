import { keyTexts, type IndexDefinition } from '../../indexes/definition.ts';
import { candidatesOfScore } from '../advice/otherKinds.ts';
import { adviseOn, adviseOnFusion, adviseOnGroup, adviseOnScore, type Suggestion } from '../advice/advice.ts';
import { askedSource, collectionAt, type AskedSource } from '../askedSource.ts';
import { tell, tellAnswered, tellScored } from '../explain/tell.ts';
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
import { whatIfOthers } from '../paths/others.ts';
import { planCost } from '../planCost.ts';
import type { Alternative } from './alternative.ts';
import { bestThatFollows, planScored, scoredByIndex, type ScoredByIndex } from './scoredByIndex.ts';
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
  const scored = scoredByIndex(asked, options, insisted);
  if (weighed.isRefused && answered === undefined && scored === undefined) throw insisted.refusal();
  // Each is told by what was done for it alone.
  const told = { joins: [] as Weighed[], rewrites: [...done] };
  const toldScored = { joins: [] as Weighed[], rewrites: [...done] };
  const context = contextOf(asked, planning, told.joins, told.rewrites);
  const ownIndex = answered ?? (weighed.chosen.covering === undefined ? undefined : weighed.chosen);
  if (ownIndex !== undefined)
    told.rewrites.push({
      rule: 'index-only',
      detail: `all that is asked stands in ${ownIndex.statistics?.definition.name ?? ''}, so no document is read`,
      stages: [asked.from.id],
    });
  const written = answered === undefined ? layOut(asked, weighed.chosen, context) : planAnswered(asked, answered, context);
  const unscored = withWordsCounted(written, stages, context);
  const contextScored = contextOf(asked, planning, toldScored.joins, toldScored.rewrites);
  const laidScored = scored && withWordsCounted(planScored(asked, scored, contextScored), stages, contextScored);
  const takesScored = laidScored !== undefined && (!insisted.isOpen || planCost(laidScored.root) < planCost(unscored.root));
  const physical = takesScored ? laidScored : unscored;
  const { joins, rewrites } = takesScored ? toldScored : told;
  const planned = new PlanToldWhenRead(physical, rewrites, {
    suggestions: () =>
      options.whatIf?.length || answered || takesScored
        ? []
        : adviceFor(asked, weighed, { options, insisted, unscored: () => planCost(unscored.root) }),
    weighed: () => [...pathsTold(asked, weighed, answered, scored && { scored, isChosen: takesScored }), ...joins],
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
    others: whatIfOthers(asked.source, options),
    keepsUsed: !options.withoutRules?.includes('used fields alone'),
    mayFuse: !options.withoutRules?.includes('unnest joined to group'),
  };
}

interface Scoring {
  readonly options: PlanOptions;
  readonly insisted: Insistence;
  /** What the plan costs without an index that knows scores. */
  readonly unscored: () => number;
}

function adviceFor(asked: AskedSource, { chosen }: WeighedPaths, { options, insisted, unscored }: Scoring): Suggestion[] {
  const { source, question, selectivity, constant } = asked;
  const best = bestThatFollows(asked.following);
  // Of what is fused, words alone are dear to look at in each document.
  const fusionAdvice = (definition: IndexDefinition) =>
    definition.kind === 'text' ? adviseOnFusion(source, definition, best!, chosen) : undefined;
  for (const definition of best === undefined ? [] : best.stage.scores.flatMap(({ expression }) => candidatesOfScore(expression))) {
    const scored = scoredByIndex(asked, { ...options, whatIf: [definition] }, insisted);
    const advised = scored === undefined ? fusionAdvice(definition) : adviseOnScore(source, unscored(), scored, chosen);
    const isThere = source.others.some(({ definition: own }) => own.kind === definition.kind && own.language === definition.language && keyTexts(definition).every((key) => keyTexts(own).includes(key))); // prettier-ignore
    if (advised !== undefined && !isThere) return [advised];
  }
  const group = groupThatFollows(asked.following);
  const byItself = group && adviseOnGroup(source, question, chosen, group);
  return byItself ? [byItself] : adviseOn(source, question, chosen, selectivity, constant);
}

function pathsTold(
  { source, question, from, wheres, order }: AskedSource,
  weighed: WeighedPaths,
  answered: Answered | undefined,
  scored: { readonly scored: ScoredByIndex; readonly isChosen: boolean } | undefined,
): Weighed[] {
  const { chosen, paths, useless } = weighed;
  const stages = [from, ...wheres, ...(chosen.match?.ordered && order ? [order] : [])].map(({ id }) => id);
  const told = tell(source, question, { chosen, ways: paths, useless }, stages);
  const all = answered === undefined ? told : tellAnswered(source, answered, told);
  return scored === undefined ? all : tellScored(source, scored.scored, scored.isChosen, all);
}
