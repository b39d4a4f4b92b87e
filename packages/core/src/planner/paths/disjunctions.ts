import type { Disjunction } from './disjunction.ts';
import { rangesInTurn } from '../../indexes/ordered/rangeOrder.ts';
import type { IndexRange } from '../../indexes/ordered/sortedEntries.ts';
import { isSingle, type Expression } from '../../language/tree.ts';
import { conjunctsOf, type Conjunct } from '../conjuncts.ts';
import { keyConditionsOf, keyTextOf, type Constant, type KeyCondition } from './keyConditions.ts';
import { notAskedFor, rangesOf, servedOf } from './matchIndex.ts';
import type { IndexMatch } from './indexMatch.ts';
import { longestWalk, orderLeft, type AskedEmpties } from './orderedWalk.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { AccessQuestion } from './path.ts';

/** Disjunction of one condition beyond this are not looked for one by one. */
const mostAlternatives = 40;

/** Each is held against all that is asked beside it: of a pipeline with thousands of them, the first ones alone are. */
const mostDisjunctions = 64;

/** The conditions whose alternatives ask for different keys, so that no single key condition stands for them. */
export function disjunctionsOf(
  conjuncts: readonly Conjunct[],
  conditions: readonly KeyCondition[],
  constant: Constant,
): readonly Disjunction[] {
  const found = conjuncts.flatMap((conjunct): Disjunction[] => {
    const { expression, stage } = conjunct;
    if (expression.kind !== 'or' || expression.operands.length > mostAlternatives) return [];
    if (conditions.some((condition) => condition.conjunct === conjunct)) return [];
    const options = unfolded(conjunctsOf(expression, stage));
    if (options.length > mostAlternatives) return [];
    return [{ conjunct, options: options.map((own) => ({ own, conditions: own.flatMap((one) => keyConditionsOf(one, constant)) })) }];
  });
  return found.slice(0, mostDisjunctions);
}

/** Conditions that all hold, as alternatives without `||` in any: `a && (b || c)` is `a && b` or `a && c`. */
function unfolded(conjuncts: readonly Conjunct[]): Conjunct[][] {
  let options: Conjunct[][] = [[]];
  for (const conjunct of conjuncts) {
    const { expression, stage } = conjunct;
    const parts = expression.kind === 'or' ? expression.operands.flatMap((operand) => unfolded(conjunctsOf(operand, stage))) : [[conjunct]];
    options = options.flatMap((option) => parts.map((part) => [...option, ...part]));
    if (options.length > mostAlternatives) break;
  }
  return options;
}

/** What holds beside a condition of alternatives. */
export function aroundOf({ conjunct }: Disjunction, { conjuncts, conditions }: AccessQuestion) {
  return {
    others: conjuncts.filter((other) => other !== conjunct),
    conditions: conditions.filter((condition) => condition.conjunct !== conjunct),
  };
}

/**
 * Disjunction as ranges of one index that share no entry: `@.a > 5 || @.a == 5 && @.b > 7` begins in the midst of an
 * index on both and goes on from there, in its order. That a key is null or missing is an alternative too where an
 * order walks the index, for it has a place for them.
 */
export function matchDisjunction(statistics: IndexStatistics, question: AccessQuestion, alternatives: Disjunction): IndexMatch | undefined {
  const { keys } = statistics.definition;
  // An alternative that asks nothing of any key is found by no index, but for a key that is missing.
  const isFound = alternatives.options.every(({ own, conditions }) => conditions.length > 0 || (own.length === 1 && keyThatIsMissing(own[0]!.expression) !== undefined)); // prettier-ignore
  if (!isFound) return undefined;
  const { others, conditions: around } = aroundOf(alternatives, question);
  if (keys.some((key) => key.several) || notAskedFor(statistics, others)) return undefined;
  const wanted = orderLeft(question.order, around);
  const walked = wanted.length === 0 ? undefined : keyTextOf(wanted[0]!.expression);
  const ranges: IndexRange[] = [];
  const used: KeyCondition[][] = [];
  let exact = true;
  let missing = false;
  for (const { own, conditions } of alternatives.options) {
    if (walked !== undefined && own.length === 1 && keyThatIsMissing(own[0]!.expression) === walked) {
      missing = true;
      continue;
    }
    const found = rangesOf(keys, [...conditions, ...around]);
    if (!found.used.some(({ conjunct }) => own.includes(conjunct))) return undefined;
    const served = servedOf(keys, found.used);
    exact &&= own.every((one) => served.includes(one));
    ranges.push(...found.ranges);
    used.push([...found.used]);
  }
  // What is walked beside the ranges, for being missing, begins as they do and goes no further.
  const begins = rangesOf(keys, around);
  const holdsThere = (one: Conjunct) => !missing || begins.used.some(({ conjunct }) => conjunct === one);
  const everywhere = others.filter((one) => holdsThere(one) && used.every((some) => some.some(({ conjunct }) => conjunct === one)));
  const both = {
    used: [alternatives.conjunct, ...everywhere],
    served: [
      ...(exact ? [alternatives.conjunct] : []),
      ...everywhere.filter((one) => used.every((some) => servedOf(keys, some).includes(one))),
    ],
    lookup: false,
  };
  if (!missing) {
    const directions = keys.map(({ direction }) => direction);
    if (rangesInTurn(ranges, directions) === undefined) return undefined;
    return { ...both, ranges, ordered: longestWalk(statistics, ranges, wanted) };
  }
  const start = keys.findIndex(({ text }) => text === walked);
  if (!beginsAt(begins.ranges, start, ranges)) return undefined;
  const isNull = ({ fixed, interval }: IndexRange) => fixed.length === start + 1 && fixed[start] === null && interval === undefined;
  const beside: AskedEmpties = { nulls: ranges.some(isNull), missing };
  const valued = ranges.filter((range) => !isNull(range));
  const ordered = longestWalk(statistics, valued, wanted, beside);
  return ordered && { ...both, ranges: valued, ordered, inOrderAlone: true };
}

/** `!@.key`: the text of the key that is asked to be missing. */
function keyThatIsMissing(expression: Expression): string | undefined {
  if (expression.kind !== 'not' || expression.operand.kind !== 'path' || !isSingle(expression.operand)) return undefined;
  return keyTextOf(expression.operand);
}

/** Whether what holds around fixes the keys before the order's first one, and the ranges begin with the same values. */
function beginsAt(around: readonly IndexRange[], start: number, ranges: readonly IndexRange[]): boolean {
  if (around.length !== 1 || around[0]!.fixed.length !== start || around[0]!.interval !== undefined) return false;
  // The values of the conditions around are the same objects in each.
  return ranges.every(({ fixed }) => around[0]!.fixed.every((value, k) => fixed[k] === value));
}
