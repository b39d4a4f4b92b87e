import type { Wording } from '../language/wording.ts';
import type { StepMeter } from '../execution/meter.ts';
import { keyTexts, type IndexDefinition } from '../indexes/definition.ts';
import type { IndexRange } from '../indexes/ordered/sortedEntries.ts';
import { intersect, missing, type Cut, type Interval } from '../indexes/ordered/cuts.ts';
import type { NodeId } from '../language/places.ts';
import { definitionOf } from '../language/stages/registry.ts';
import type { ChangeStep } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import { inputsOf, type JoinMatch, type OrderedWalk, type PhysicalStep, type StepKind } from '../planner/physical.ts';

/** The steps of a plan in the words of textbooks. */
export type StepName =
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
  | 'sort'
  | 'partial sort'
  | 'top-N sort'
  | 'offset'
  | 'limit'
  | 'change';

/** A plan as data. Figures of a run are null where the plan was not run. Times in milliseconds, memory in bytes. */
export interface PlanNode {
  readonly step: StepName;
  readonly detail: string;
  readonly lines: readonly number[];
  readonly collection?: string;
  readonly index?: string;
  readonly keys?: readonly string[];
  /** Of a union or an intersection. */
  readonly indexes?: readonly string[];
  /** Rows that the step skips, or gives at most. */
  readonly rowCount?: number;
  /** How many times more rows came than were expected, or fewer, where it is tenfold or beyond. */
  readonly misestimated?: number;
  readonly estimatedRows: number;
  readonly rows: number | null;
  readonly documentsRead: number | null;
  readonly indexEntriesRead: number | null;
  readonly timeMs: number | null;
  readonly memoryBytes: number | null;
  /** The conditions tested here, in the order in which they are, with how many rows each looked at. */
  readonly conditions?: readonly { readonly condition: string; readonly lookedAt: number | null }[];
  /** Of a join: rows that found no partner, one, or several. */
  readonly matches?: { readonly none: number; readonly one: number; readonly several: number };
  readonly inputs: readonly PlanNode[];
}

/** What the words of a plan are made from, beside the plan. */
export interface PlanWords {
  readonly definitionOf: DefinitionOf;
  readonly say: Wording;
  /** The lines of the asked text that stages stand on. */
  readonly linesOf: (stages: readonly NodeId[]) => readonly number[];
}

export type DefinitionOf = (collection: string, index: string) => IndexDefinition | undefined;

type Describe<S extends PhysicalStep> = (step: S, words: PlanWords) => { step: StepName; detail: string };

const whole = new Intl.NumberFormat('en');

function rowsText(count: number): string {
  return `${whole.format(count)} row${count === 1 ? '' : 's'}`;
}

const describers: { readonly [K in StepKind]: Describe<Extract<PhysicalStep, { kind: K }>> } = {
  fullScan: ({ collection, condition }, { say }) => ({
    step: 'full scan',
    detail: `every document of ${collection}` + (condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`),
  }),
  indexScan: ({ collection, lookup, ranges, index, ordered, condition, covering }, { definitionOf, say }) => {
    const definition = definitionOf(collection, index);
    const asked = definition ? rangesText(definition, ranges) : '';
    const order =
      ordered === undefined ? '' : `${besideText(definition, ranges, ordered)}, in its order${ordered.backwards ? ' backwards' : ''}`;
    const rest = condition === undefined ? '' : `, keeping those with ${say.expression(condition)}`;
    const step = covering !== undefined ? 'index-only scan' : lookup ? 'index lookup' : 'index range scan';
    return { step, detail: `${collection} by ${index}${asked}${order}${rest}` };
  },
  indexSetScan: ({ collection, combine, parts, condition }, { definitionOf, say }) => {
    const each = parts.map(({ index, ranges }) => {
      const definition = definitionOf(collection, index);
      return `${index}${definition ? rangesText(definition, ranges) : ''}`;
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
    const right = `${target[target.length - 1]}${say.expression(rightKeys[i]).slice(1)}`;
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
    const parts = fixed.map((value, k) => `${keys[k].text} == ${JSON.stringify(value)}`);
    if (interval !== undefined) parts.push(intervalText(keys[fixed.length].text, interval));
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
  return `; ${definition.keys[start].text} ${which}`;
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

/** What a run left of itself. */
export interface RunFigures {
  readonly meterOf: (step: PhysicalStep) => StepMeter;
  /** Whether it looked at some documents alone, as it was asked to: what was expected of all of them is then no measure. */
  readonly cutShort: boolean;
}

/** Turns a physical plan into data, with the figures of its run where there is one. */
export function describePlan(step: PhysicalStep, words: PlanWords, figures: RunFigures | undefined): PlanNode {
  const { definitionOf, linesOf } = words;
  const describe = describers[step.kind] as unknown as Describe<PhysicalStep>;
  const meter = figures?.meterOf(step);
  const definition = 'index' in step ? definitionOf(step.collection, step.index) : undefined;
  return {
    ...describe(step, words),
    lines: linesOf(step.stages),
    ...('collection' in step && { collection: step.collection }),
    ...('index' in step && { index: step.index }),
    ...(step.kind === 'indexSetScan' && { indexes: step.parts.map(({ index }) => index) }),
    ...(definition && { keys: keyTexts(definition) }),
    ...('count' in step && { rowCount: step.count }),
    estimatedRows: Math.round(step.estimatedRows),
    rows: meter?.rowsOut ?? null,
    ...(meter && figures?.cutShort === false && misestimated(step.estimatedRows, meter)),
    documentsRead: meter?.documentsRead ?? null,
    indexEntriesRead: meter?.indexEntriesRead ?? null,
    timeMs: meter?.timeMs ?? null,
    memoryBytes: meter?.peak ?? null,
    ...('condition' in step && step.condition !== undefined && { conditions: conditionsOf(step.condition, meter, words.say) }),
    ...(meter?.matches && { matches: { ...meter.matches } }),
    inputs: inputsOf(step).map((input) => describePlan(input, words, figures)),
  };
}

/** What a change did with the documents that it found. */
export interface ChangeFigures {
  readonly changed: number;
  readonly timeMs: number;
}

/** The step that changes what the plan of finding hands over. */
export function describeChange(
  steps: readonly { readonly stage: ChangeStep; readonly id: NodeId }[],
  linesOf: PlanWords['linesOf'],
  finding: PlanNode,
  figures: ChangeFigures | undefined,
): PlanNode {
  const nothing = figures === undefined ? null : 0;
  return {
    step: 'change',
    detail: steps.map(({ stage }) => definitionOf(stage.kind).print(stage)).join('; '),
    lines: linesOf(steps.map(({ id }) => id)),
    estimatedRows: finding.estimatedRows,
    rows: figures?.changed ?? null,
    documentsRead: nothing,
    indexEntriesRead: nothing,
    timeMs: figures?.timeMs ?? null,
    memoryBytes: nothing,
    inputs: [finding],
  };
}

function conditionsOf(condition: Expression, meter: StepMeter | undefined, say: Wording): PlanNode['conditions'] {
  const parts = condition.kind === 'and' ? condition.operands : [condition];
  return parts.map((part, i) => ({ condition: say.expression(part), lookedAt: meter === undefined ? null : (meter.lookedAt[i] ?? 0) }));
}

/** Beyond this, the plan was made on figures that do not hold. */
const noticed = 10;

function misestimated(expected: number, { rowsOut, stoppedEarly }: StepMeter): { misestimated?: number } {
  if (stoppedEarly) return {};
  const [less, more] = [Math.max(1, Math.min(expected, rowsOut)), Math.max(1, expected, rowsOut)];
  // A few rows more or less decide nothing.
  return more / less >= noticed && more >= 50 ? { misestimated: Math.round(more / less) } : {};
}
