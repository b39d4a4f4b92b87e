import { keyTexts } from '../indexes/definition.ts';
import { printExpression } from '../language/grammar/print.ts';
import type { GroupAllStage, GroupStage } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { PlannedStage } from './logical.ts';
import { keyTextOf } from './keyConditions.ts';
import { matchIndex } from './matchIndex.ts';
import type { IndexAggregate } from './physical.ts';
import type { PlannedSource } from './source.ts';
import type { IndexStatistics } from './statistics.ts';
import type { Question } from './ways.ts';

/** A group that an index answers by itself, with the index. */
export interface AnsweredGroup {
  readonly statistics: IndexStatistics;
  readonly step: Omit<IndexAggregate, 'lines' | 'estimatedRows' | 'inner'>;
  /** Entries that are looked at, about: two for the extremes, one for each different key. */
  readonly entries: number;
}

/**
 * Finds an index that gives a group's rows without reading what is grouped: its conditions are one range of the index,
 * and what is measured is how many entries that range has, or the least and the greatest of the key that follows.
 */
export function answeredGroup(
  source: PlannedSource,
  indexes: readonly IndexStatistics[],
  question: Question,
  { stage }: PlannedStage<GroupStage | GroupAllStage>,
): AnsweredGroup | undefined {
  const [key, ...more] = stage.kind === 'group' ? stage.keys : [];
  if (more.length > 0) return undefined;
  const measured = stage.measures.map(({ aggregate, argument, where, target }) =>
    where === undefined && (aggregate === 'count' || aggregate === 'min' || aggregate === 'max')
      ? { target, aggregate, of: argument && keyTextOf(argument) }
      : undefined,
  );
  if (measured.includes(undefined)) return undefined;
  const wanted = new Set([...(key ? [keyTextOf(key.expression)] : []), ...measured.flatMap((one) => one?.of ?? [])]);
  if (wanted.size > 1) return undefined;
  const [keyText] = wanted;
  for (const statistics of [...indexes].sort((a, b) => a.definition.keys.length - b.definition.keys.length)) {
    const { definition } = statistics;
    if (definition.keys.some(({ several }) => several)) continue;
    const match = rangeOf(statistics, question);
    if (match === undefined) continue;
    const next = definition.keys[match.fixed.length];
    // Entries of one value stand by position only where no further key parts them.
    const isLast = match.fixed.length === definition.keys.length - 1;
    if (keyText !== undefined && (next?.text !== keyText || (key !== undefined && !isLast))) continue;
    const isWhole = match.fixed.length === 0 && match.interval === undefined;
    return {
      statistics,
      entries: key === undefined ? 2 : Math.max(1, statistics.distinct(1)),
      step: {
        kind: 'indexAggregate',
        collection: source.name,
        index: definition.name,
        range: match,
        absent: isWhole,
        by: key?.target,
        measures: measured.flatMap((one) => (one === undefined ? [] : [{ target: one.target, aggregate: one.aggregate }])),
      },
    };
  }
  return undefined;
}

/** The one range that stands for all conditions, without any left to test. */
function rangeOf(statistics: IndexStatistics, { conjuncts, conditions }: Question) {
  if (conjuncts.length === 0) return statistics.definition.where === undefined ? { fixed: [] } : undefined;
  const match = matchIndex(statistics, conjuncts, conditions, []);
  if ('reason' in match || match.ranges.length !== 1) return undefined;
  const where = statistics.definition.where;
  const implied = where === undefined ? [] : partsOf(where);
  const isServed = conjuncts.every((one) => match.served.includes(one) || implied.includes(one.text));
  return isServed ? match.ranges[0] : undefined;
}

function partsOf(where: Expression): string[] {
  return (where.kind === 'and' ? where.operands : [where]).map((part) => printExpression(part));
}

export function keysOfAnswered({ statistics }: AnsweredGroup): readonly string[] {
  return keyTexts(statistics.definition);
}
