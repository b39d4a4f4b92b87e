import type { NodeId } from '../../language/places.ts';
import { keyTexts } from '../../indexes/definition.ts';
import type { Answered } from '../alternatives/answeredByIndex.ts';
import type { ScoredByIndex } from '../alternatives/scoredByIndex.ts';
import { indexesOf, keysOf, reasonFor, pathName, type Weighed } from './reasons.ts';
import type { PlannedSource } from '../source.ts';
import type { AccessQuestion, AnyIndex, UselessIndex, AccessPath } from '../paths/path.ts';

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

/** What is told of a way of an index that does more than find documents. */
type OwnWay = Omit<Weighed, 'stages' | 'whatIf' | 'keys' | 'index' | 'collection'>;

/** Ways of indexes that do more than find documents, taken together or not at all, put before the others; what those lost by where they are. */
function toldBefore(source: PlannedSource, others: readonly Weighed[], owns: readonly { readonly statistics: AnyIndex; readonly own: OwnWay }[], lost: string): Weighed[] {
  const told = owns.map(({ statistics: { definition, built }, own }): Weighed => ({ collection: source.name, index: definition.name, keys: keyTexts(definition), whatIf: built === undefined, stages: others[0]?.stages ?? [], ...own }));
  const rest = others.filter(({ index, cost }) => cost !== undefined || told.every((one) => one.index !== index));
  if (!told.some(({ chosen }) => chosen)) return [...rest, ...told];
  return [...told, ...rest.map((way) => (way.chosen ? { ...way, chosen: false, reason: lost } : way))];
} // prettier-ignore

/** The same where an index answers the group that comes first, so that no way to the documents is taken. */
export function tellAnswered(source: PlannedSource, { statistics, step, entries }: Answered, others: readonly Weighed[]): Weighed[] {
  const own = {
    way: 'index-only scan',
    chosen: true,
    reason: step.by === undefined ? 'its entries are counted without being read' : 'one look for each different value',
    documentsRead: 0,
    indexEntriesRead: Math.round(entries),
    cost: Math.round(entries),
  } as const;
  return toldBefore(source, others, [{ statistics, own }], 'the group is answered without it');
}

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** The same where an index knows what documents score: it is told first where it is taken, and why not where it is not. */
export function tellScored(source: PlannedSource, { rankings, cost }: ScoredByIndex, isChosen: boolean, others: readonly Weighed[]): Weighed[] {
  const owns = rankings.map(({ statistics, entries, documentsRead }) => ({
    statistics,
    own: {
      way: 'index search',
      chosen: isChosen,
      reason: isChosen
        ? `gives the best by its ${whole.format(entries)} entries, and only what it finds is read`
        : `would score ${whole.format(entries)} entries and read about ${whole.format(documentsRead)} documents to find enough that meet the conditions`,
      documentsRead: Math.round(documentsRead),
      indexEntriesRead: Math.round(entries),
      cost: Math.round(cost * 10) / 10,
    } as const,
  }));
  return toldBefore(source, others, owns, 'every document would have to be scored');
} // prettier-ignore
