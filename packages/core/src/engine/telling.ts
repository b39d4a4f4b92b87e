import { worded } from '../language/wording.ts';
import { namedIndexes } from '../planner/advice/advice.ts';
import { GuardTripped, RunCancelled } from '../execution/guards.ts';
import type { Run } from '../execution/run.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import { inputsOf, type PhysicalPlan, type PhysicalStep, type StepKind } from '../planner/physical.ts';
import type { NodeId } from '../language/places.ts';
import type { Planned } from '../planner/plan.ts';
import type { Reading } from './reading.ts';
import { describePlan } from './describePlan.ts';
import type { DefinitionOf, PlanWords } from './stepWords.ts';
import type { EngineProblem, Explained, LineResult, Placed } from './requests.ts';

/** What is told of a plan, and of its run. */
export interface ToTell {
  readonly planned: Planned;
  readonly reading: Reading;
  readonly definitions: DefinitionOf;
  readonly whatIf?: readonly IndexDefinition[];
  readonly run?: Run;
}

/**
 * The plan in words, made when it is read and once: it takes longer than many a run. A class, since getters of objects that are made for
 * each run take longer to make than a document to find.
 */
export class Telling implements Explained {
  private readonly of: ToTell;
  private readonly made: { -readonly [K in keyof Explained]?: Explained[K] } = {};

  constructor(of: ToTell) {
    this.of = of;
  }

  get rewrites(): Explained['rewrites'] {
    const { planned, reading } = this.of;
    return (this.made.rewrites ??= planned.rewrites.map((one) => ({ ...this.placed(one), detail: worded(one.detail, reading) })));
  }

  get suggestions(): Explained['suggestions'] {
    const { planned, reading } = this.of;
    return (this.made.suggestions ??= planned.suggestions.map((one) => ({ ...this.placed(one), reason: worded(one.reason, reading) })));
  }

  get weighed(): Explained['weighed'] {
    const { planned, reading } = this.of;
    return (this.made.weighed ??= planned.weighed.map((one) => ({ ...this.placed(one), reason: worded(one.reason, reading) })));
  }

  get plan(): Explained['plan'] {
    return (this.made.plan ??= this.described());
  }

  private described(): Explained['plan'] {
    const { planned, reading, definitions, whatIf = [], run } = this.of;
    const words: PlanWords = {
      definitionOf: (collection, name) => whatIf.find((definition) => definition.name === name) ?? definitions(collection, name),
      say: reading,
      linesOf: (stages) => reading.linesOf(stages),
      parameters: planned.parameters ?? {},
    };
    const figures = run && { meterOf: (step: PhysicalStep) => run.meter.of(step), cutShort: run.watch.cutShort };
    return describePlan(planned.physical.root, words, figures);
  }

  /** As it is sent: spread it, not the object itself, whose words are made by getters. */
  toJSON(): Explained {
    const { rewrites, suggestions, plan, weighed } = this;
    return { rewrites, suggestions, plan, weighed };
  }

  private placed<T extends { readonly stages: readonly NodeId[] }>({ stages, ...told }: T): Placed<T> {
    return { ...told, lines: this.of.reading.linesOf(stages) };
  }
}

/** All that is told, at once. */
export function explain(of: ToTell): Explained {
  return new Telling(of).toJSON();
}

/** What each line gave and what it cost. */
export function linesOf({ root, stages }: PhysicalPlan, reading: Reading, run: Run): LineResult[] {
  const times = timesByStage(root, reading, run);
  // A view's stages all work for the one that names it: what comes out of the last of them is what counts.
  const lastOfEach = new Map(stages.map((one) => [reading.askedStageOf(one.id), one]));
  const inOrder = [...lastOfEach].sort(([a], [b]) => a - b);
  return inOrder.map(([asked, { id, step, counts }]) => {
    const meter = run.meter.of(step);
    const rowsOut = {
      read: meter.documentsRead + meter.handedOver,
      in: meter.rowsIn,
      inner: meter.inner.get(id) ?? 0,
      out: meter.rowsOut,
    }[counts];
    const { timeMs = 0, isEstimated = false } = times.get(asked) ?? {};
    const line = { line: reading.lineOf(asked), rowsOut, timeMs, stoppedEarly: meter.stoppedEarly };
    return isEstimated ? { ...line, timeIsEstimated: true as const } : line;
  });
}

/** Steps that a condition's line shares with the line that names the collection. */
const readsDocuments: ReadonlySet<StepKind> = new Set(['fullScan', 'indexScan', 'indexSetScan', 'positionsScan']);

/** The time of every step goes to one of its lines: a scan's with a condition to the condition, others' to the first. */
function timesByStage(root: PhysicalStep, reading: Reading, run: Run): ReadonlyMap<NodeId, { timeMs: number; isEstimated: boolean }> {
  const times = new Map<NodeId, { timeMs: number; isEstimated: boolean }>();
  const add = (step: PhysicalStep): void => {
    const { kind, stages } = step;
    const payer = reading.askedStageOf(stages[readsDocuments.has(kind) ? Math.min(1, stages.length - 1) : 0]!);
    const { timeMs, shared } = run.meter.of(step);
    const before = times.get(payer);
    times.set(payer, { timeMs: (before?.timeMs ?? 0) + timeMs, isEstimated: before?.isEstimated === true || shared !== undefined });
    inputsOf(step).forEach(add);
  };
  add(root);
  return times;
}

const whole = new Intl.NumberFormat('en');

function megabytes(bytes: number): string {
  return `${(bytes / 1024 / 1024).toFixed(1)} MB`;
}

/**
 * Why a run came to no end: it was cancelled, or a guard ended it, with how far it had come and what would help.
 * @throws anything else
 */
export function problemOf(error: unknown, run: Run, planned: Planned, reading: Reading, definitionOf: DefinitionOf): EngineProblem {
  if (error instanceof RunCancelled) return { kind: 'cancelled', message: 'The run was cancelled.' };
  if (!(error instanceof GuardTripped)) throw error;
  const { guard, step, reached, limit } = error;
  const line = reading.lineOf(step.stages[0]!);
  const explained = explain({ planned, reading, definitions: definitionOf, run });
  const help = explained.suggestions
    .map(
      (one) => ` ${namedIndexes(one)} would help: ${one.beside ? `they ${one.reason.replace(/^serves/, 'serve')}` : `it ${one.reason}`}.`,
    )
    .join('');
  const told = {
    time: `Line ${line} was stopped after ${whole.format(reached)} ms; the guard allows ${whole.format(limit)} ms.`,
    'documents-read': `Line ${line} was stopped after ${whole.format(reached)} documents read, which is all that the guard allows.`,
    memory: `Line ${line} was stopped holding ${megabytes(reached)} in memory; the guard allows ${megabytes(limit)}.`,
  }[guard];
  return {
    kind: `guard-${guard}`,
    message: told + help,
    line,
    reached,
    limit,
    suggestions: explained.suggestions,
    cost: run.costs,
    explained,
  };
}
