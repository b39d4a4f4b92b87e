import { describers, type Describe, type PlanWords, type StepName } from './stepWords.ts';
import type { Wording } from '../language/wording.ts';
import type { StepMeter } from '../execution/meter.ts';
import { keyTexts } from '../indexes/definition.ts';
import type { NodeId } from '../language/places.ts';
import { definitionOf } from '../language/stages/registry.ts';
import type { ChangeStep } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import { inputsOf, type PhysicalStep } from '../planner/physical.ts';

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
  /** Whether its time was taken together with that of other steps of one loop, and shared out by their work. */
  readonly timeIsEstimated?: true;
  readonly memoryBytes: number | null;
  /** The conditions tested here, in the order in which they are, with how many rows each looked at. */
  readonly conditions?: readonly { readonly condition: string; readonly lookedAt: number | null }[];
  /** Of a join: rows that found no partner, one, or several. */
  readonly matches?: { readonly none: number; readonly one: number; readonly several: number };
  readonly inputs: readonly PlanNode[];
}

/** What a run left of itself. */
export interface RunFigures {
  readonly meterOf: (step: PhysicalStep) => StepMeter;
  /** Whether it looked at some documents alone, as it was asked to: what was expected of all of them is then no measure. */
  readonly cutShort: boolean;
}

/**
 * Turns a physical plan into data, with the figures of its run where there is one: from the bottom up, since a plan of thousands of
 * lines is deeper than calls may be within one another.
 */
export function describePlan(root: PhysicalStep, words: PlanWords, figures: RunFigures | undefined): PlanNode {
  const steps = [root];
  for (let at = 0; at < steps.length; at++) steps.push(...inputsOf(steps[at]!));
  const told = new Map<PhysicalStep, PlanNode>();
  for (const step of steps.reverse()) {
    const inputs = inputsOf(step).map((input) => told.get(input)!);
    told.set(step, { ...describeStep(step, words, figures), inputs });
  }
  return told.get(root)!;
}

function describeStep(step: PhysicalStep, words: PlanWords, figures: RunFigures | undefined): Omit<PlanNode, 'inputs'> {
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
    ...(step.kind === 'fusedScan' && { indexes: step.rankings.map(({ index }) => index) }),
    ...(definition && { keys: keyTexts(definition) }),
    ...('count' in step && { rowCount: step.count }),
    estimatedRows: Math.round(step.estimatedRows),
    rows: meter?.rowsOut ?? null,
    ...(meter && figures?.cutShort === false && misestimated(step.estimatedRows, meter)),
    documentsRead: meter?.documentsRead ?? null,
    indexEntriesRead: meter?.indexEntriesRead ?? null,
    timeMs: meter?.timeMs ?? null,
    ...(meter?.shared && { timeIsEstimated: true as const }),
    memoryBytes: meter?.peak ?? null,
    ...('condition' in step && step.condition !== undefined && { conditions: conditionsOf(step.condition, meter, words.say) }),
    ...(meter?.matches && { matches: { ...meter.matches } }),
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
