import type { PathRequest } from './pathRequest.ts';
import type { PositionsIndex, PositionsPath } from '../positionsIndex.ts';
import type { Asked } from '../../indexes/kind.ts';
import { kindOf } from '../../indexes/kinds.ts';
import { isConstant } from '../../language/constant.ts';
import type { Conjunct } from '../conjuncts.ts';
import { costs, sortCost } from '../cost.ts';
import type { Constant } from './keyConditions.ts';
import { notAskedFor } from './matchIndex.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import type { AccessPath, AccessQuestion, UselessIndex } from './path.ts';

/** What conditions ask, as kinds of indexes read it. */
export function askedOf(conjuncts: readonly Conjunct[], valueOf: Constant): Asked {
  return { conditions: conjuncts.map(({ expression }) => expression), valueOf, isConstant };
}

/** A way that conditions were found to be served in, and how many entries its index counted for it. */
interface MatchedPositions {
  readonly path: PositionsPath;
  readonly counted: number;
}

/** What an index that gives positions can look for of some conditions; why not, where it cannot. */
export function matchPositions(
  statistics: PositionsIndex,
  conjuncts: readonly Conjunct[],
  valueOf: Constant,
): readonly MatchedPositions[] | UselessIndex {
  const { definition, index } = statistics;
  const unasked = notAskedFor(statistics, conjuncts);
  if (unasked)
    return {
      statistics,
      reason: ({ expression }) => `it holds only documents for which ${expression(unasked.expression)}, which is not asked for`,
    };
  const { access } = kindOf(definition);
  if (access.by !== 'positions') return { statistics, reason: 'it does not answer with positions' };
  const found = access.match(index, askedOf(conjuncts, valueOf));
  if (typeof found === 'string') return { statistics, reason: found };
  const pick = (places: readonly number[]) => places.map((at) => conjuncts[at]!);
  return found.map(({ lookup, words, entries, used, served }) => ({
    path: { statistics, lookup, words, used: pick(used), served: pick(served) },
    counted: entries,
  }));
}

/** About how many entries there are, of so many counted in an index that may be of a sample. */
export function entriesOf(source: PlannedSource, { scale }: PositionsIndex, counted: number): number {
  // Nothing found in a sample may still be something in the whole.
  return Math.min(source.store.count, Math.round((counted === 0 && scale > 1 ? 0.5 : counted) * scale));
}

/** The ways by an index that gives positions; documents are fetched in insertion order, and sorted where an order is wanted. */
export function positionsPaths(
  source: PlannedSource,
  statistics: PositionsIndex,
  question: AccessQuestion,
  selectivity: Selectivity,
  valueOf: Constant,
): readonly AccessPath[] | UselessIndex {
  const matched = matchPositions(statistics, question.conjuncts, valueOf);
  if ('reason' in matched) return matched;
  return matched.map((one) => wayOf(one, { source, question, selectivity }));
}

function wayOf({ path, counted }: MatchedPositions, { source, question, selectivity }: PathRequest): AccessPath {
  const entries = entriesOf(source, path.statistics, counted);
  const isAll = question.conjuncts.every((one) => path.served.includes(one));
  const rows = isAll ? entries : Math.min(entries, source.store.count * selectivity.of(question.conjuncts));
  const stops = question.demand !== undefined && question.order.length === 0;
  const documentsRead = stops ? Math.min(entries, Math.ceil((question.demand ?? 0) * (entries / Math.max(rows, 0.5)))) : entries;
  const rowsSorted = question.order.length > 0 ? rows : 0;
  const reading = costs.start + entries * costs.position + documentsRead * costs.fetched;
  return {
    kind: 'positions',
    path,
    documentsRead,
    indexEntriesRead: entries,
    rowsSorted,
    rows,
    cost: reading + sortCost(rowsSorted, question.demand),
    sorting: sortCost(rowsSorted, question.demand),
  };
}
