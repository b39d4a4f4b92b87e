import type { NodeId } from '../../language/places.ts';
import { keyTexts } from '../../indexes/definition.ts';
import type { Answered } from '../alternatives/answeredByIndex.ts';
import type { ScoredByIndex } from '../alternatives/scoredByIndex.ts';
import { indexesOf, keysOf, reasonFor, pathName, type Weighed } from './reasons.ts';
import type { PlannedSource } from '../source.ts';
import type { AccessQuestion, UselessIndex, AccessPath } from '../paths/path.ts';

/** The ways to the documents, as they are told: the chosen one first. */
export function tell(
  source: PlannedSource,
  question: AccessQuestion,
  {
    chosen,
    ways,
    useless,
  }: { readonly chosen: AccessPath; readonly ways: readonly AccessPath[]; readonly useless: readonly UselessIndex[] },
  stages: readonly NodeId[],
): Weighed[] {
  const told = ways.map((way): Weighed => ({
    way: pathName(way),
    collection: source.name,
    ...(indexesOf(way).length > 0 && {
      index: indexesOf(way)
        .map(({ definition }) => definition.name)
        .join(' + '),
      keys: keysOf(way),
    }),
    whatIf: indexesOf(way).some(({ built }) => built === undefined),
    chosen: way === chosen,
    reason: reasonFor(way, chosen, ways.length - 1, question.conjuncts.length),
    documentsRead: Math.round(way.documentsRead),
    indexEntriesRead: Math.round(way.indexEntriesRead),
    cost: Math.round(way.cost * 10) / 10,
    stages,
  }));
  const lost = useless.map(({ statistics, reason }): Weighed => ({
    way: 'index range scan',
    collection: source.name,
    index: statistics.definition.name,
    keys: keyTexts(statistics.definition),
    whatIf: statistics.built === undefined,
    chosen: false,
    reason,
    stages,
  }));
  // The chosen way first, then by cost; what is of no use last.
  return [...told.sort((a, b) => Number(b.chosen) - Number(a.chosen) || (a.cost ?? 0) - (b.cost ?? 0)), ...lost];
}

/** The same where an index answers the group that comes first, so that no way to the documents is taken. */
export function tellAnswered(source: PlannedSource, answered: Answered, others: readonly Weighed[]): Weighed[] {
  const { definition, built } = answered.statistics;
  const chosen: Weighed = {
    way: 'index-only scan',
    collection: source.name,
    index: definition.name,
    keys: keyTexts(definition),
    whatIf: built === undefined,
    chosen: true,
    reason: answered.step.by === undefined ? 'its entries are counted without being read' : 'one look for each different value',
    documentsRead: 0,
    indexEntriesRead: Math.round(answered.entries),
    cost: Math.round(answered.entries),
    stages: others[0]?.stages ?? [],
  };
  const rest = others.filter(({ index, cost }) => index !== definition.name || cost !== undefined);
  return [chosen, ...rest.map((way) => (way.chosen ? { ...way, chosen: false, reason: 'the group is answered without it' } : way))];
}

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** The same where an index knows what documents score: it is told first where it is taken, and why not where it is not. */
export function tellScored(source: PlannedSource, scored: ScoredByIndex, isChosen: boolean, others: readonly Weighed[]): Weighed[] {
  const { definition, built } = scored.statistics;
  const own: Weighed = {
    way: 'index search',
    collection: source.name,
    index: definition.name,
    keys: keyTexts(definition),
    whatIf: built === undefined,
    chosen: isChosen,
    reason: isChosen
      ? `gives the best by its ${whole.format(scored.entries)} entries, and only what it finds is read`
      : `would score ${whole.format(scored.entries)} entries and read about ${whole.format(scored.documentsRead)} documents to find enough that meet the conditions`,
    documentsRead: Math.round(scored.documentsRead),
    indexEntriesRead: Math.round(scored.entries),
    cost: Math.round(scored.cost * 10) / 10,
    stages: others[0]?.stages ?? [],
  };
  const rest = others.filter(({ index, cost }) => index !== definition.name || cost !== undefined);
  if (!isChosen) return [...rest, own];
  return [own, ...rest.map((way) => (way.chosen ? { ...way, chosen: false, reason: 'every document would have to be scored' } : way))];
}
