import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { GroupAllStage, GroupStage, SelectItem } from '../../language/stages/stage.ts';
import type { Expression } from '../../language/tree.ts';
import type { PlannedStage } from '../logical.ts';
import { isKey, keyTextOf } from '../paths/keyConditions.ts';
import { isOfElements } from '../advice/candidateKeys.ts';
import { matchIndex } from '../paths/matchIndex.ts';
import type { AnsweredAggregate, IndexAggregate } from '../physical.ts';
import type { PlannedSource } from '../source.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { AccessQuestion } from '../paths/path.ts';

/** What a group asks of the one field that it is about; groups that ask for more no index answers by itself. */
interface Asked {
  /** The key of the group; undefined where everything is one group. */
  readonly key: SelectItem | undefined;
  readonly measures: IndexAggregate['measures'];
  /** The field, as the key of an index; undefined where rows are only counted. */
  readonly keyText: string | undefined;
}

/** What an index knows of a range of itself without reading what it stands for. */
function isAnswerable(aggregate: string): aggregate is AnsweredAggregate {
  return aggregate === 'count' || aggregate === 'count_distinct' || aggregate === 'min' || aggregate === 'max';
}

function askedOf({ stage }: PlannedStage<GroupStage | GroupAllStage>): Asked | undefined {
  const [key, ...more] = stage.kind === 'group' ? stage.keys : [];
  if (more.length > 0) return undefined;
  const fields = new Set<string>();
  if (key !== undefined) {
    if (!isKey(key.expression)) return undefined;
    fields.add(keyTextOf(key.expression));
  }
  const measures: IndexAggregate['measures'][number][] = [];
  for (const { aggregate, argument, where, target, kept } of stage.measures) {
    if (where !== undefined || kept !== undefined || !isAnswerable(aggregate)) return undefined;
    if (argument === undefined) {
      measures.push({ target, aggregate });
      continue;
    }
    if (!isKey(argument)) return undefined;
    fields.add(keyTextOf(argument));
    measures.push({ target, aggregate });
  }
  const [keyText] = fields;
  return fields.size > 1 ? undefined : { key, measures, keyText };
}

/** Whether each different value has to be looked at, rather than the extremes alone. */
function readsRuns({ key, measures }: Asked): boolean {
  return key !== undefined || measures.some(({ aggregate }) => aggregate === 'count_distinct');
}

/** The keys of an index that would answer a group by itself: those that one value is asked of, then the group's field. */
export function keysToAnswer(
  { conditions }: AccessQuestion,
  group: PlannedStage<GroupStage | GroupAllStage>,
): readonly string[] | undefined {
  const keyText = askedOf(group)?.keyText;
  if (keyText === undefined) return undefined;
  const equal = conditions.flatMap(({ asks, keyText: text }) => (asks.kind === 'points' && asks.points.length === 1 ? [text] : []));
  const keys = [...new Set([...equal.filter((text) => text !== keyText), keyText])];
  return keys.some(isOfElements) ? undefined : keys;
}

/** A group that an index answers by itself, with the index. */
export interface AnsweredGroup {
  readonly statistics: IndexStatistics;
  readonly step: Omit<IndexAggregate, 'stages' | 'estimatedRows' | 'cost' | 'inner'>;
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
  question: AccessQuestion,
  group: PlannedStage<GroupStage | GroupAllStage>,
): AnsweredGroup | undefined {
  const asked = askedOf(group);
  if (asked === undefined) return undefined;
  const { key, measures, keyText } = asked;
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
      entries: readsRuns(asked) ? runsAfter(statistics, match.fixed.length) : 2,
      step: {
        kind: 'indexAggregate',
        collection: source.name,
        index: definition.name,
        range: match,
        absent: isWhole,
        by: key?.target,
        measures,
      },
    };
  }
  return undefined;
}

/** About how many different values a key has after so many that are fixed. */
function runsAfter(statistics: IndexStatistics, fixed: number): number {
  return Math.max(1, statistics.distinct(fixed + 1) / (fixed === 0 ? 1 : Math.max(1, statistics.distinct(fixed))));
}

/** The one range that stands for all conditions, without any left to test. */
function rangeOf(statistics: IndexStatistics, { conjuncts, conditions }: AccessQuestion) {
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
