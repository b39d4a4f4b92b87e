import { milliseconds } from '../values/clock.ts';
import type { PhysicalStep } from '../planner/physical.ts';
import type { Meter } from './meter.ts';

/** The limits of a run: milliseconds, documents, bytes. Reaching a limit passes; crossing it ends the run. */
export interface Guards {
  readonly timeMs: number;
  readonly documentsRead: number;
  readonly memoryBytes: number;
}

export const defaultGuards: Guards = { timeMs: 10_000, documentsRead: 1_000_000, memoryBytes: 48 * 1024 * 1024 };

export type GuardName = 'time' | 'documents-read' | 'memory';

/** A guard ended the run while a step was at work. */
export class GuardTripped extends Error {
  readonly guard: GuardName;
  readonly step: PhysicalStep;
  readonly reached: number;
  readonly limit: number;
  constructor(guard: GuardName, step: PhysicalStep, reached: number, limit: number) {
    super(`guard ${guard}`);
    this.guard = guard;
    this.step = step;
    this.reached = reached;
    this.limit = limit;
  }
}

/** The run was cancelled. */
export class RunCancelled extends Error {}

/** What ends a run without an error before it has read everything. */
export interface Bounds {
  readonly readAtMost?: number | undefined;
  readonly workAtMostMs?: number | undefined;
}

/** Watches a run's limits. Operators ask it before they read and after they take hold of memory. */
export class Watch {
  private readonly guards: Guards;
  private readonly meter: Meter;
  private readonly isCancelled: () => boolean;
  private readonly started = milliseconds();
  /** A bounded run ends without an error after so many documents. */
  private readonly readAtMost: number;
  /** … or reads no more after so many milliseconds of work. */
  private readonly workAtMostMs: number;
  /** The step that reads the documents that rows come from. */
  private readonly boundedStep: PhysicalStep;
  /** Time spent waiting for others does not count as work. */
  pausedMs = 0;
  cutShort = false;

  constructor(guards: Guards, meter: Meter, isCancelled: () => boolean, { readAtMost, workAtMostMs }: Bounds, boundedStep: PhysicalStep) {
    this.guards = guards;
    this.meter = meter;
    this.isCancelled = isCancelled;
    this.readAtMost = readAtMost ?? Infinity;
    this.workAtMostMs = workAtMostMs ?? Infinity;
    this.boundedStep = boundedStep;
  }

  get elapsedMs(): number {
    return milliseconds() - this.started - this.pausedMs;
  }

  /** Asked once a batch. */
  look(step: PhysicalStep): void {
    if (this.isCancelled()) throw new RunCancelled();
    const elapsed = this.elapsedMs;
    if (elapsed > this.guards.timeMs) throw new GuardTripped('time', step, Math.round(elapsed), this.guards.timeMs);
    this.lookAtMemory(step);
  }

  /** What was held since the last look counts too, though it may have been let go. */
  lookAtMemory(step: PhysicalStep): void {
    const { peak } = this.meter;
    if (peak > this.guards.memoryBytes) throw new GuardTripped('memory', step, peak, this.guards.memoryBytes);
  }

  /** How many of so many documents may still be read; a step that asks for more when none are left crosses the guard. */
  mayRead(step: PhysicalStep, wanted: number): number {
    // Partners are read whole: without them no row of the few that are looked at would find its own.
    const read = step === this.boundedStep ? this.meter.of(step).documentsRead : 0;
    const bound = step === this.boundedStep ? this.readAtMost - read : Infinity;
    if (bound <= 0 || (read > 0 && this.elapsedMs >= this.workAtMostMs)) {
      this.cutShort = true;
      return 0;
    }
    const left = this.guards.documentsRead - this.meter.documentsRead;
    if (left <= 0) throw new GuardTripped('documents-read', step, this.meter.documentsRead, this.guards.documentsRead);
    return Math.min(wanted, left, bound);
  }
}
