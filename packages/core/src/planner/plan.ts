import type { NodeId } from '../language/places.ts';
import { compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { kindOf } from '../indexes/kinds.ts';
import { isRowCount } from '../language/stages/rowCount.ts';
import type { FromStage, WhereStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import { adviseOn, adviseOnGroup, type Suggestion } from './advice.ts';
import { alternativesOf } from './alternatives.ts';
import { answeredBy, groupThatFollows } from './answered.ts';
import { conjunctsOf } from './conjuncts.ts';
import { positionsWays } from './paths/positions.ts';
import { readToTheEnd } from './covering.ts';
import { demandOf } from './demand.ts';
import { earlyOrder } from './earlyOrder.ts';
import { elementsPerRow } from './layers/groups.ts';
import { intersectionWays, unionWays } from './indexSets.ts';
import { Insistence, type WayKind } from './insisting.ts';
import { keyConditionsOf, type Constant } from './keyConditions.ts';
import type { LayContext, SourceLookup } from './layers/layer.ts';
import { layAnswered, layOut } from './layOut.ts';
import { isStage, type PlannedStage, type Rewrite, type RuleName } from './logical.ts';
import { rewrite } from './rewrites/rewrite.ts';
import type { PhysicalPlan } from './physical.ts';
import type { Weighed } from './reasons.ts';
import { Selectivity, type PlannedSource } from './source.ts';
import { imagined, imaginedPositions, type IndexStatistics } from './statistics.ts';
import { tell, tellAnswered } from './tell.ts';
import { fullScanWay, indexWays, leastOf, waysByDocuments, type Question, type UselessIndex, type Way } from './ways.ts';
import { costs } from './costs.ts';

export type { PlannedStage } from './logical.ts';

export interface PlanOptions {
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
  /** Planned against though they are not built; such a plan cannot be run. */
  readonly whatIf?: readonly IndexDefinition[];
  readonly ignoreIndexes?: readonly string[];
  readonly useIndex?: readonly string[];
  /** Kinds of ways that are insisted on. */
  readonly ways?: readonly WayKind[];
  /** Rewrites that are not to be made; for comparing with and without. */
  readonly withoutRules?: readonly RuleName[];
}

export interface Planned {
  readonly physical: PhysicalPlan;
  readonly weighed: readonly Weighed[];
  readonly suggestions: readonly Suggestion[];
  readonly rewrites: readonly Rewrite[];
}

/** A value of the pipeline that only shows at planning is not one that its stage can take. */
export class PlanProblem extends Error {
  readonly id: NodeId;
  readonly expression: Expression;
  constructor(message: string, id: NodeId, expression: Expression) {
    super(message);
    this.id = id;
    this.expression = expression;
  }
}

/**
 * Plans a pipeline: weighs the ways to its documents, and lays an operator to every stage.
 * @throws PlanProblem where offset or limit is given no whole number
 * @throws WayRefused where a kind of way is insisted on that there is none of
 */
export function plan(written: readonly PlannedStage[], lookup: SourceLookup, options: PlanOptions): Planned {
  const { stages, done } = rewrite(written, options.withoutRules);
  const insisted = new Insistence(options.useIndex, options.ways);
  const wantsEarly = insisted.wants('early order');
  const usual = planStages(stages, done, lookup, options, wantsEarly ? insisted.ofPartners : insisted);
  const early =
    options.withoutRules?.includes('order moved up') || !insisted.allows('early order')
      ? undefined
      : earlyOrder(stages, usual.countOf, (stage) => elementsPerRow(stage, usual.source));
  if (early === undefined) {
    if (wantsEarly) throw insisted.refusal();
    return usual.planned;
  }
  const told: Rewrite = {
    rule: 'order moved up',
    detail: ({ stages }) => `rows are put in order before ${stages(early.passed)}, as an index gives it`,
    stages: [early.id],
  };
  const inOrder = wantsEarly ? new Insistence(options.useIndex, [...(options.ways ?? []), 'index order']) : insisted;
  const other = planStages(early.stages, [...done, told], lookup, options, inOrder, early.about);
  if (wantsEarly) {
    if (other.chosen.match?.ordered?.left.length !== 0) throw insisted.refusal();
    return other.planned;
  }
  // What comes to the lines in between is handled a row at a time, and then looked at for the first in order.
  const { chosen } = usual;
  const asItIs = { ...chosen, rows: chosen.rows, rowsSorted: chosen.rows, cost: chosen.cost + chosen.rows * costs.passedRow };
  if (other.chosen.match?.ordered?.left.length === 0 && other.chosen.cost * wantedGain < asItIs.cost) return other.planned;
  return new ToldWhenRead(usual.planned.physical, usual.planned.rewrites, {
    suggestions: () => {
      const { suggestions } = usual.planned;
      if (options.whatIf?.length) return suggestions;
      const [plain] = suggestions;
      const [first] = adviseOn(other.source, other.question, asItIs, other.selectivity, other.constant);
      return first !== undefined && (plain === undefined || first.documentsRead < plain.documentsRead) ? [first] : suggestions;
    },
    weighed: () => usual.planned.weighed,
  });
}

/** An order is taken early where that costs so many times less: how many rows drop out on the way is little known. */
const wantedGain = 3;

/** A plan with what it was made of. */
interface PlannedStages {
  readonly planned: Planned;
  readonly source: PlannedSource;
  readonly question: Question;
  readonly selectivity: Selectivity;
  readonly chosen: Way;
  readonly countOf: (stage: PlannedStage) => number;
  readonly constant: Constant;
}

/** @param about so many documents will be taken, where the stages after them do not say for sure */
function planStages(
  stages: readonly PlannedStage[],
  done: readonly Rewrite[],
  lookup: SourceLookup,
  options: PlanOptions,
  insisted: Insistence,
  about?: number,
): PlannedStages {
  const source = sourceOf(stages, lookup);
  const values = makeContext(options.parameters, options.now);
  // A literal needs no function made for it.
  const constant: Constant = (expression) => (expression.kind === 'literal' ? expression.value : compileValue(expression)({}, values));
  const countOf = ({ stage, id }: PlannedStage): number => {
    if (stage.kind !== 'offset' && stage.kind !== 'limit' && stage.kind !== 'sample') return 0;
    const value = stage.count.kind === 'literal' ? stage.count.value : constant(stage.count);
    if (!isRowCount(value))
      throw new PlanProblem(
        `${stage.kind} takes a whole number of rows, 0 or more, and was given ${JSON.stringify(value) ?? 'nothing'}.`,
        id,
        stage.count,
      );
    return value;
  };

  const [from, ...rest] = stages as [PlannedStage<FromStage>, ...PlannedStage[]];
  const wheres: PlannedStage<WhereStage>[] = [];
  for (const stage of rest) {
    if (!isStage(stage, 'where')) break;
    wheres.push(stage);
  }
  const following = rest.slice(wheres.length);
  // What was moved or dropped from between leaves only its mark.
  const firstOf = following.find(({ stage }) => stage.kind !== 'mark');
  const order = isStage(firstOf, 'order') ? firstOf : undefined;

  const conjuncts = wheres.flatMap(({ stage, id }) => conjunctsOf(stage.condition, id));
  const conditions = conjuncts.flatMap((conjunct) => keyConditionsOf(conjunct, constant));
  const question: Question = {
    conjuncts,
    conditions,
    alternatives: alternativesOf(conjuncts, conditions, constant),
    order: order?.stage.keys ?? [],
    demand: about ?? demandOf(order === undefined ? following : following.slice(following.indexOf(order) + 1), countOf),
    read: options.withoutRules?.includes('index-only')
      ? undefined
      : readToTheEnd(
          conjuncts.map(({ expression }) => expression),
          following.map(({ stage }) => stage),
        ),
  };
  const selectivity = new Selectivity(source, options.parameters);
  const { chosen, ways, useless, considered, isRefused } = weigh(source, question, selectivity, options, insisted, constant);
  const answered =
    options.withoutRules?.includes('index-only') || !insisted.allows('aggregate')
      ? undefined
      : answeredBy(source, considered, question, following, insisted);
  if (isRefused && answered === undefined) throw insisted.refusal();
  const told = (): Weighed[] =>
    tell(
      source,
      question,
      chosen,
      ways,
      useless,
      [from, ...wheres, ...(chosen.match?.ordered && order ? [order] : [])].map(({ id }) => id),
    );
  const joins: Weighed[] = [];
  const rewrites: Rewrite[] = [...done];
  const context: LayContext = {
    constant,
    countOf,
    lookup,
    indexIsAllowed: (name) => !options.ignoreIndexes?.includes(name),
    source,
    byIndex: insisted.byIndex,
    isNamed: (name) => insisted.names(name),
    planView: (view) => plan(view, lookup, { ...options, ways: undefined, whatIf: [] }).physical.root,
    weighed: joins,
    rewrites,
    keepsUsed: !options.withoutRules?.includes('used fields alone'),
    mayFuse: !options.withoutRules?.includes('unnest joined to group'),
  };
  if (answered !== undefined || chosen.covering !== undefined) {
    const index = answered ?? chosen;
    rewrites.push({
      rule: 'index-only',
      detail: () => `all that is asked stands in ${index.statistics?.definition.name ?? ''}, so no document is read`,
      stages: [from.id],
    });
  }
  const physical =
    answered === undefined
      ? layOut(from, wheres, following, order, source, question, chosen, selectivity, context, about)
      : layAnswered(from, wheres, answered, context);
  const advice = (): Suggestion[] => {
    const group = groupThatFollows(following);
    const byItself = group && adviseOnGroup(source, question, chosen, group);
    return byItself ? [byItself] : adviseOn(source, question, chosen, selectivity, constant);
  };
  const planned = new ToldWhenRead(physical, rewrites, {
    suggestions: () => (options.whatIf?.length || answered ? [] : advice()),
    weighed: () => [...(answered === undefined ? told() : tellAnswered(source, answered, told())), ...joins],
  });
  return { planned, source, question, selectivity, chosen, countOf, constant };
}

/** Words are made when someone reads them: finding one document by its identity takes less time than telling of it. */
class ToldWhenRead implements Planned {
  readonly physical: PhysicalPlan;
  readonly rewrites: readonly Rewrite[];
  private readonly make: { readonly [K in 'suggestions' | 'weighed']: () => Planned[K] };
  private readonly made: { suggestions?: readonly Suggestion[]; weighed?: readonly Weighed[] } = {};

  constructor(physical: PhysicalPlan, rewrites: readonly Rewrite[], make: ToldWhenRead['make']) {
    this.physical = physical;
    this.rewrites = rewrites;
    this.make = make;
  }
  get suggestions(): readonly Suggestion[] {
    return (this.made.suggestions ??= this.make.suggestions());
  }
  get weighed(): readonly Weighed[] {
    return (this.made.weighed ??= this.make.weighed());
  }
}

/** The collection that rows come from. A view that begins another pipeline has been put in its place before. */
function sourceOf([first]: readonly PlannedStage[], lookup: SourceLookup): PlannedSource {
  if (!isStage(first, 'from')) throw new Error('a pipeline that begins with no source reached the planner');
  const named = lookup(first.stage.source, { stage: first.id, source: first.stage.sourceId });
  if (named.kind === 'view') throw new Error('a view stands where its stages should');
  return named.source;
}

function weigh(
  source: PlannedSource,
  question: Question,
  selectivity: Selectivity,
  options: PlanOptions,
  insisted: Insistence,
  constant: Constant,
) {
  const isOrdered = (definition: IndexDefinition) => kindOf(definition).access.by === 'order';
  const whatIf = options.whatIf ?? [];
  const statistics = [...source.indexes, ...whatIf.filter(isOrdered).map((definition) => imagined(definition, source.sample()))];
  const others = [
    ...source.others,
    ...whatIf.filter((definition) => !isOrdered(definition)).map((definition) => imaginedPositions(definition, source.sample())),
  ]
    .filter(({ definition }) => !options.ignoreIndexes?.includes(definition.name))
    .map((index) => positionsWays(source, index, question, selectivity, constant));
  const considered = statistics.filter(({ definition }) => !options.ignoreIndexes?.includes(definition.name));
  const looked = considered.map((index) => indexWays(source, index, question, selectivity));
  const single = looked.flatMap((ways) => (isUseless(ways) ? [] : [leastOf(ways)]));
  const sets = (indexes: readonly IndexStatistics[]) => [
    ...unionWays(source, indexes, question, selectivity),
    ...intersectionWays(source, indexes, question, selectivity),
  ];
  const byPositions = others.flatMap((found) => (isUseless(found) ? [] : found));
  const ways = [fullScanWay(source, question, selectivity), ...single, ...sets(considered), ...byPositions];
  const usual = leastOf(ways);
  const all = (): Way[] => {
    const named = considered.filter(({ definition }) => insisted.allowsIndex(definition.name));
    const further = named.flatMap((index) => {
      const own = indexWays(source, index, question, selectivity);
      return [...(isUseless(own) ? [] : own), ...waysByDocuments(source, index, question, selectivity)];
    });
    return [ways[0], ...further, ...sets(named), ...byPositions];
  };
  const chosen = insisted.isOpen ? undefined : insisted.choose(all());
  const told = chosen === undefined || ways.includes(chosen) ? ways : [...ways, chosen];
  return {
    chosen: chosen ?? usual,
    ways: told,
    useless: [...looked, ...others].filter(isUseless),
    considered,
    isRefused: chosen === undefined && insisted.isOfDocuments,
  };
}

function isUseless(ways: readonly Way[] | UselessIndex): ways is UselessIndex {
  return !Array.isArray(ways);
}
