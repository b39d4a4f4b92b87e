import type { Wording } from '../language/wording.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import type { IndexRange } from '../indexes/ordered/sortedEntries.ts';
import { intersect, missing, type Cut, type Interval } from '../indexes/ordered/cuts.ts';
import type { NodeId } from '../language/places.ts';
import { rangesOf } from '../planner/lookedUp.ts';
import type { Json } from '../values/json.ts';
import type { JoinMatch, OrderedWalk, PhysicalStep, StepKind } from '../planner/physical.ts';

/** The steps of a plan in the words of textbooks. */
export type StepName =
  | 'materialized view scan'
  | 'full scan'
  | 'index range scan'
  | 'index lookup'
  | 'index-only scan'
  | 'index union'
  | 'index intersection'
  | 'filter'
  | 'project'
  | 'compute'
  | 'unnest'
  | 'hash join'
  | 'nested-loop join'
  | 'index nested-loop join'
  | 'hash aggregate'
  | 'window rank'
  | 'sample'
  | 'best'
  | 'fusion'
  | 'word count'
  | 'index search'
  | 'text index search'
  | 'place index search'
  | 'vector index search'
  | 'sort'
  | 'partial sort'
  | 'top-N sort'
  | 'offset'
  | 'limit'
  | 'change';

/** What the words of a plan are made from, beside the plan. */
export interface PlanWords {
  readonly definitionOf: DefinitionOf;
  readonly say: Wording;
  /** The lines of the asked text that stages stand on. */
  readonly linesOf: (stages: readonly NodeId[]) => readonly number[];
  readonly parameters: Readonly<Record<string, Json>>;
}

export type DefinitionOf = (collection: string, index: string) => IndexDefinition | undefined;

export type Describe<S extends PhysicalStep> = (step: S, words: PlanWords) => { step: StepName; detail: string };

const whole = new Intl.NumberFormat('en');

function rowsText(count: number): string {
  return `${whole.format(count)} row${count === 1 ? '' : 's'}`;
}

/** The words of each kind of step. */
export const describers: { readonly [K in StepKind]: Describe<Extract<PhysicalStep, { kind: K }>> } = {
  fullScan: ({ collection, condition, ofView }, { say }) => ({
    step: ofView === true ? 'materialized view scan' : 'full scan',
    detail:
      `every ${ofView === true ? 'row' : 'document'} of ${collection}` +
      (condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`),
  }),
  indexScan: (scan, { definitionOf, say, parameters }) => {
    const { collection, lookup, index, ordered, skip, condition, covering } = scan;
    const ranges = rangesOf(scan, parameters);
    const definition = definitionOf(collection, index);
    const asked = definition ? rangesText(definition, ranges) : '';
    const order =
      ordered === undefined ? '' : `${besideText(definition, ranges, ordered)}, in its order${ordered.backwards ? ' backwards' : ''}`;
    const rest = condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`;
    const step = covering !== undefined ? 'index-only scan' : lookup ? 'index lookup' : 'index range scan';
    const after = skip === 0 ? '' : `, after ${rowsText(skip)} that are counted off`;
    return { step, detail: `${collection} by ${index}${asked}${order}${after}${rest}` };
  },
  indexSetScan: ({ collection, combine, parts, condition }, { definitionOf, say }) => {
    const each = parts.map((part) => {
      if (!('ranges' in part)) return `${part.index}, ${part.words}`;
      const definition = definitionOf(collection, part.index);
      return `${part.index}${definition ? rangesText(definition, part.ranges) : ''}`;
    });
    const rest = condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`;
    return { step: `index ${combine}`, detail: `${collection} by ${each.join(combine === 'union' ? ' or ' : ' and ')}${rest}` };
  },
  positionsScan: ({ collection, index, words, condition }, { say }) => ({
    step: 'index lookup',
    detail: `${collection} by ${index}, ${words}${condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`}`,
  }),
  indexAggregate: ({ collection, index, range, by, measures }, { definitionOf, say }) => {
    const definition = definitionOf(collection, index);
    const asked = definition ? rangesText(definition, [range]) : '';
    const what = [
      ...(by ? [`the different ${say.name(by)}`] : []),
      ...measures.map(({ target, aggregate }) => `${say.name(target)} (${aggregate})`),
    ];
    return { step: 'index-only scan', detail: `${collection} by ${index}${asked}: ${what.join(', ')} from its entries alone` };
  },
  filter: ({ condition }, { say }) => ({ step: 'filter', detail: `keeps rows with ${say.expression(condition)}` }),
  project: ({ items }, { say }) => ({ step: 'project', detail: items.map(({ target }) => say.name(target)).join(', ') }),
  omit: ({ paths }, { say }) => ({ step: 'project', detail: `all but ${paths.map(say.expression).join(', ')}` }),
  compute: ({ assignments }, { say }) => ({
    step: 'compute',
    detail: assignments.map(({ target, expression }) => `${say.name(target)} = ${say.expression(expression)}`).join(', '),
  }),
  unnest: ({ path, target, keepEmpty }, { say }) => ({
    step: 'unnest',
    detail: `a row for each element of ${say.expression(path)}, as ${say.name(target)}${keepEmpty ? ', rows without elements kept' : ''}`,
  }),
  hashJoin: ({ match }, { say }) => ({
    step: match.leftKeys.length === 0 ? 'nested-loop join' : 'hash join',
    detail: joinText(match, say),
  }),
  indexJoin: ({ match, collection, index }, { say }) => ({
    step: 'index nested-loop join',
    detail: `${joinText(match, say)}, looked up in ${index} of ${collection}`,
  }),
  group: ({ keys, measures, unnested }, { say }) => {
    const over = keys === undefined ? 'everything as one' : `by ${keys.map(({ target }) => say.name(target)).join(', ')}`;
    const taken = unnested === undefined ? '' : `elements of ${say.expression(unnested.path)}, `;
    const measured = measures.map(({ target, aggregate }) => `${say.name(target)} (${aggregate})`).join(', ');
    return { step: 'hash aggregate', detail: `${taken}${over}${measured === '' ? '' : `: ${measured}`}` };
  },
  rank: ({ target, partition, keys, atMost }, { say }) => ({
    step: 'window rank',
    detail: `${say.name(target)} by ${keys.map(say.orderKey).join(', ')}${partition.length === 0 ? '' : ` in each ${partition.map(say.expression).join(', ')}`}${atMost === undefined ? '' : `, holding ranks up to ${atMost}`}`,
  }),
  best: ({ count, rankings, depth }, { say }) => {
    const scores = rankings.map(({ expression, weight }) => `${say.expression(expression)}${weight === 1 ? '' : `, weight ${weight}`}`);
    if (rankings.length === 1) return { step: 'best', detail: `keeping the ${whole.format(count)} that score highest by ${scores[0]}` };
    const places = `the first ${whole.format(depth)} places of each`;
    return {
      step: 'fusion',
      detail: `keeping the best ${whole.format(count)} by ${places} of ${rankings.length} rankings: ${scores.join(' · ')}`,
    };
  },
  scoredScan: ({ collection, index, expression, count, conditions, effort }, { definitionOf, say }) => {
    const kind = definitionOf(collection, index)?.kind;
    const kept =
      conditions.length === 0 ? '' : `, those with ${conditions.map(({ condition }) => say.expression(condition)).join(' and ')}`;
    const about = effort === undefined ? '' : `, about: of ${whole.format(effort)} candidates`;
    return {
      step: kind === undefined || kind === 'ordered' ? 'index search' : `${kind} index search`,
      detail: `${index} of ${collection} gives the best ${whole.format(count)} by ${say.expression(expression)}${kept}${about}`,
    };
  },
  fusedScan: ({ collection, rankings, depth, count, conditions }, { say }) => {
    const kept =
      conditions.length === 0 ? '' : `, those with ${conditions.map(({ condition }) => say.expression(condition)).join(' and ')}`;
    const scores = rankings.map(({ index, expression, weight, effort }) => `${index} by ${say.expression(expression)}${weight === 1 ? '' : `, weight ${weight}`}${effort === undefined ? '' : `, about: of ${whole.format(effort)} candidates`}`); // prettier-ignore
    return {
      step: 'fusion',
      detail: `the best ${whole.format(count)} of ${collection} by the first ${whole.format(depth)} places that each index gives${kept}: ${scores.join(' · ')}`,
    };
  },
  countWords: ({ collection, calls }, { say }) => ({
    step: 'word count',
    detail: `how often the words stand in ${collection}, for ${[...new Set(calls.map(({ call, index }) => `${say.expression(call)}${index === undefined ? '' : `, which ${index} knows`}`))].join(' and ')}`,
  }),
  sample: ({ count, seed }) => ({
    step: 'sample',
    detail: `${rowsText(count)} at random${seed === undefined ? '' : `, seed ${seed}`}`,
  }),
  sort: ({ keys }, { say }) => ({ step: 'sort', detail: `by ${keys.map(say.orderKey).join(', ')}` }),
  partialSort: ({ given, left }, { say }) => ({
    step: 'partial sort',
    detail: `by ${left.map(say.orderKey).join(', ')} where rows tie on ${given.map(say.orderKey).join(', ')}`,
  }),
  topNSort: ({ keys, count }, { say }) => ({
    step: 'top-N sort',
    detail: `by ${keys.map(say.orderKey).join(', ')}, keeping the first ${whole.format(count)}`,
  }),
  offset: ({ count }) => ({ step: 'offset', detail: `skips ${rowsText(count)}` }),
  limit: ({ count }) => ({ step: 'limit', detail: `stops after ${rowsText(count)}` }),
};

function joinText({ mode, target, leftKeys, rightKeys, leftIsList, rightIsList, residual }: JoinMatch, say: Wording): string {
  const pairs = leftKeys.map((left, i) => {
    const right = `${target[target.length - 1]}${say.expression(rightKeys[i]!).slice(1)}`;
    if (leftIsList) return `${right} in ${say.expression(left)}`;
    return rightIsList ? `${say.expression(left)} in ${right}` : `${right} == ${say.expression(left)}`;
  });
  const kind = mode === 'join' ? '' : mode === 'leftJoin' ? ', rows without one kept' : ', gathered into a list';
  const rest = residual === undefined ? '' : `, pairs tested on ${say.expression(residual)}`;
  return `${say.name(target)}${pairs.length > 0 ? ` with ${pairs.join(' && ')}` : ', each with each'}${rest}${kind}`;
}

const shownRanges = 3;

function rangesText({ keys }: IndexDefinition, ranges: readonly IndexRange[]): string {
  if (ranges.length === 0) return ' (no value can fit)';
  const shown = ranges.slice(0, shownRanges).map(({ fixed, interval }) => {
    const parts = fixed.map((value, k) => `${keys[k]!.text} == ${JSON.stringify(value)}`);
    if (interval !== undefined) parts.push(intervalText(keys[fixed.length]!.text, interval));
    return parts.join(', ');
  });
  const more = ranges.length > shownRanges ? ` and ${ranges.length - shownRanges} more` : '';
  const text = shown.filter((part) => part !== '').join('; ');
  return text === '' ? '' : `, ${text}${more}`;
}

/** Null and missing that are walked beside ranges which do not hold them. */
function besideText(definition: IndexDefinition | undefined, ranges: readonly IndexRange[], { start, empties }: OrderedWalk): string {
  if (definition === undefined || empties === undefined) return '';
  const holdsThem = ({ fixed, interval }: IndexRange) =>
    fixed.length === start && (interval === undefined || intersect(interval, empties.range.interval ?? interval) !== undefined);
  if (ranges.some(holdsThem)) return '';
  const which = empties.range.interval === missing ? 'missing' : 'null or missing';
  return `; ${definition.keys[start]!.text} ${which}`;
}

function intervalText(key: string, interval: Interval): string {
  const { low, high } = interval;
  if (interval === missing) return `${key} missing`;
  const bound = (cut: Cut, sign: '>' | '<'): string | undefined => {
    if (cut.at !== 'value') return undefined;
    const inclusive = (cut.side === 'before') === (sign === '>');
    return `${key} ${sign}${inclusive ? '=' : ''} ${JSON.stringify(cut.value)}`;
  };
  if (high.at === 'prefixEnd') return `${key} beginning with ${JSON.stringify(high.prefix)}`;
  const bounds = [bound(low, '>'), bound(high, '<')].filter((text) => text !== undefined);
  return bounds.length > 0 ? bounds.join(' and ') : `${key} present`;
}
