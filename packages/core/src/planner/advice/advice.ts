import { servesText } from '../explain/reasons.ts';
import type { Told } from '../../language/wording.ts';
import type { NodeId } from '../../language/places.ts';
import { keyTexts, readDefinition, type IndexDefinition, type IndexKindName, type Metric } from '../../indexes/definition.ts';
import type { Constant } from '../paths/keyConditions.ts';
import { pathText } from '../../language/surfaces/notation/print.ts';
import type { BestStage, GroupAllStage, GroupStage } from '../../language/stages/stage.ts';
import { candidateKeys, pathOf } from './candidateKeys.ts';
import { answeredGroup, keysToAnswer } from '../alternatives/indexAggregates.ts';
import { pathsTogether } from './together.ts';
import type { PlannedStage } from '../logical.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import { positionsPaths } from '../paths/positions.ts';
import type { LanguageName } from '../../words/languageNames.ts';
import type { ScoredByIndex } from '../alternatives/scoredByIndex.ts';
import { candidatesOfOtherKinds } from './otherKinds.ts';
import { imagined, imaginedPositions } from '../statistics.ts';
import { cheapestIndexPath } from '../paths/ordered.ts';
import { usedBy, type AccessQuestion, type AccessPath } from '../paths/path.ts';
import { costs } from '../cost.ts';

/** An index that is not there and would make this question cheaper. Figures are estimates from a sample. */
export interface Suggestion {
  readonly collection: string;
  readonly keys: readonly string[];
  /** Of another kind than the ordered one. */
  readonly kind?: Exclude<IndexKindName, 'ordered'>;
  /** Of a text index. */
  readonly language?: LanguageName;
  /** Of a vector index. */
  readonly metric?: Metric;
  /** Further indexes that it is of use with alone: alternatives that ask for different keys take one each. */
  readonly beside?: readonly (readonly string[])[];
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  /** What the chosen way reads, to compare with. */
  readonly insteadOf: number;
  readonly servesOrder: boolean;
  /** What each key adds to those before it; and at the end, what the fields that are read would, if they were keys too. */
  readonly savings: readonly Saving[];
  readonly reason: Told;
  readonly stages: readonly NodeId[];
}

/** What an index reads with one key more. */
export interface Saving {
  readonly serves: 'equality' | 'order' | 'range' | 'fields';
  /** All keys so far. */
  readonly keys: readonly string[];
  readonly documentsRead: number;
  readonly rowsSorted: number;
}

/** Fields that are worth being keys so that no document is read. */
const mostFields = 4;

/** Below this size a scan is over before anyone notices. */
const worthwhile = 500;
/** What an index spares has to be this much, in units of reading a document in a scan. */
const leastSpared = worthwhile / 2;
/** An index has to cost at most this share of the chosen way to be worth building. */
const shareWorthBuilding = 0.6;
/** The same for one that makes a sort needless, which saves memory too. */
const shareWorthBuildingWithoutSort = 0.95;

/** The index that would answer a group that comes right after the conditions from its entries alone. */
export function adviseOnGroup(
  source: PlannedSource,
  question: AccessQuestion,
  chosen: AccessPath,
  group: PlannedStage<GroupStage | GroupAllStage>,
): Suggestion | undefined {
  const keys = keysToAnswer(question, group);
  if (keys === undefined || source.store.count < worthwhile) return undefined;
  const answered = answeredGroup(source, [imagined(readDefinition({ keys }), source.sample())], question, group);
  if (answered === undefined) return undefined;
  const without = chosen.cost + chosen.rows * costs.groupedRow + answered.entries * costs.madeGroup;
  if (answered.entries * costs.lookup > without * shareWorthBuilding) return undefined;
  return {
    collection: source.name,
    keys,
    documentsRead: 0,
    indexEntriesRead: Math.round(answered.entries),
    insteadOf: Math.round(chosen.documentsRead),
    servesOrder: false,
    savings: [],
    reason: 'answers the group from its entries, so no document is read',
    stages: [...new Set([...question.conjuncts.map(({ stage }) => stage), group.id])],
  };
}

/** The index that would serve a question's equality, range and order best, or the few together; none where none helps much. */
export function adviseOn(
  source: PlannedSource,
  question: AccessQuestion,
  chosen: AccessPath,
  selectivity: Selectivity,
  constant: Constant,
): Suggestion[] {
  if (source.store.count < worthwhile || chosen.cost < leastSpared) return [];
  const existing = new Set(source.indexes.map(({ definition }) => keyTexts(definition).join(',')));
  const gains = (way: AccessPath): boolean => {
    const sortsAll = chosen.rowsSorted > 0 && chosen.match?.ordered === undefined;
    const wanted = sortsAll && way.rowsSorted === 0 ? shareWorthBuildingWithoutSort : shareWorthBuilding;
    return chosen.cost - way.cost >= leastSpared && way.cost < chosen.cost * wanted;
  };
  const [alone] = candidateKeys(question, selectivity)
    .filter((keys) => !existing.has(keys.join(',')))
    .flatMap((keys) => {
      const way = cheapestIndexPath(source, imagined(readDefinition({ keys }), source.sample()), question, selectivity);
      return 'cost' in way && gains(way) ? [{ keys, way }] : [];
    })
    .sort((a, b) => a.way.cost - b.way.cost || a.keys.length - b.keys.length);
  const [otherKind] = candidatesOfOtherKinds(question, constant)
    .flatMap((definition) => {
      const ways = positionsPaths(source, imaginedPositions(definition, source.sample()), question, selectivity, constant);
      return 'reason' in ways ? [] : ways.filter(gains).map((way) => ({ definition, way }));
    })
    .sort((a, b) => a.way.cost - b.way.cost);
  if (otherKind !== undefined && (alone === undefined || otherKind.way.cost < alone.way.cost)) {
    const { definition, way } = otherKind;
    return [{ ...suggestionOf(source, chosen, keyTexts(definition), way, []), ...ofKind(definition) }];
  }
  const [together] = pathsTogether(source, question, selectivity, constant)
    .filter(({ way }) => gains(way))
    .sort((a, b) => a.way.cost - b.way.cost);
  if (together !== undefined && (alone === undefined || together.way.cost < alone.way.cost * shareWorthBuilding)) {
    const [keys = [], ...beside] = together.missing;
    return [{ ...suggestionOf(source, chosen, keys, together.way, []), ...(beside.length > 0 && { beside }) }];
  }
  return alone === undefined
    ? []
    : [suggestionOf(source, chosen, alone.keys, alone.way, savingsOf(source, question, selectivity, alone.keys))];
}

/** What an index of another kind than the ordered one is asked for by, beside its keys. */
function ofKind({ kind, language, vector }: IndexDefinition): Pick<Suggestion, 'kind' | 'language' | 'metric'> {
  return kind === 'ordered'
    ? {}
    : { kind, ...(language !== undefined && { language }), ...(vector !== undefined && { metric: vector.metric }) };
}

/** The index that would know the scores by which the best are kept. */
export function adviseOnScore(source: PlannedSource, unscored: number, scored: ScoredByIndex, chosen: AccessPath): Suggestion | undefined {
  const { rankings, documentsRead, entries, cost, stage } = scored;
  const { statistics } = rankings.find((one) => one.statistics.built === undefined) ?? rankings[0];
  if (source.store.count < worthwhile || cost > unscored * shareWorthBuilding || unscored - cost < leastSpared) return undefined;
  return {
    collection: source.name,
    keys: keyTexts(statistics.definition),
    ...ofKind(statistics.definition),
    documentsRead: Math.round(documentsRead),
    indexEntriesRead: Math.round(entries),
    insteadOf: Math.round(chosen.documentsRead),
    servesOrder: false,
    savings: [],
    reason: 'knows what documents score, so that only the best are read',
    stages: [stage.id],
  };
}

/** The index that would give one of the scores that are fused: documents are read for the others all the same, but no text of theirs. */
export function adviseOnFusion(
  source: PlannedSource,
  definition: IndexDefinition,
  best: PlannedStage<BestStage>,
  chosen: AccessPath,
): Suggestion | undefined {
  if (source.store.count < worthwhile || chosen.rows * costs.scoredRow < leastSpared) return undefined;
  return {
    collection: source.name,
    keys: keyTexts(definition),
    ...ofKind(definition),
    documentsRead: Math.round(chosen.documentsRead),
    indexEntriesRead: 0,
    insteadOf: Math.round(chosen.documentsRead + source.store.count),
    servesOrder: false,
    savings: [],
    reason: 'knows what documents score by words, so that no text is looked at',
    stages: [best.id],
  };
}

function savingsOf(source: PlannedSource, question: AccessQuestion, selectivity: Selectivity, keys: readonly string[]): Saving[] {
  const wayOf = (some: readonly string[]): AccessPath | undefined => {
    const way = cheapestIndexPath(source, imagined(readDefinition({ keys: some }), source.sample()), question, selectivity);
    return 'cost' in way ? way : undefined;
  };
  const told = (serves: Saving['serves'], some: readonly string[]): Saving[] => {
    const way = wayOf(some);
    return way === undefined
      ? []
      : [{ serves, keys: some, documentsRead: Math.round(way.documentsRead), rowsSorted: Math.round(way.rowsSorted) }];
  };
  const kindOf = (key: string): Saving['serves'] => {
    const asks = question.conditions.find(({ keyText }) => keyText === pathOf(key))?.asks.kind;
    return asks === 'points' ? 'equality' : asks === 'interval' ? 'range' : 'order';
  };
  const savings = keys.flatMap((key, i) => told(kindOf(key), keys.slice(0, i + 1)));
  const fields = [...new Set((question.read ?? []).map((names) => pathText(names)))].filter(
    (path) => !keys.some((key) => pathOf(key) === path),
  );
  if (question.read === undefined || fields.length === 0 || fields.length > mostFields) return savings;
  return [...savings, ...told('fields', [...keys, ...fields]).filter(({ documentsRead }) => documentsRead === 0)];
}

function suggestionOf(
  source: PlannedSource,
  chosen: AccessPath,
  keys: readonly string[],
  way: AccessPath,
  savings: readonly Saving[],
): Suggestion {
  const servesOrder = way.match?.ordered?.left.length === 0;
  const used = usedBy(way);
  return {
    collection: source.name,
    keys,
    documentsRead: Math.round(way.documentsRead),
    indexEntriesRead: Math.round(way.indexEntriesRead),
    insteadOf: Math.round(chosen.documentsRead),
    servesOrder,
    savings,
    reason: (say) => [servesText(way, say), servesOrder && 'gives the order, so nothing is sorted'].filter(Boolean).join('; '),
    stages: [...new Set(used.map(({ stage }) => stage))],
  };
}

/** `An index on a, b` or `Indexes on a and on b`. */
export function namedIndexes({ keys, beside = [] }: Pick<Suggestion, 'keys' | 'beside'>): string {
  return `${beside.length === 0 ? 'An index' : 'Indexes'} on ${[keys, ...beside].map((one) => one.join(', ')).join(' and on ')}`;
}
