import type { NodeId } from '../language/places.ts';
import type { PhysicalStep } from '../planner/physical.ts';

/**
 * Steps that are one loop, whose time was taken together: it is shared out by the work that each has counted, in the units of the
 * planner's costs. That is an estimate, and is said to be one.
 */
export class SharedTime {
  private readonly works = new Map<StepMeter, () => number>();
  /** Milliseconds. */
  workedMs = 0;

  /** @param work what a step has done so far */
  add(meter: StepMeter, work: () => number): void {
    this.works.set(meter, work);
    meter.shared = this;
  }

  shareOf(meter: StepMeter): number {
    let all = 0;
    for (const work of this.works.values()) all += work();
    return all === 0 ? this.workedMs / this.works.size : (this.workedMs * this.works.get(meter)!()) / all;
  }
}

/** What one operator did. Times are in milliseconds, its inputs' not counted in. */
export class StepMeter {
  rowsIn = 0;
  rowsOut = 0;
  documentsRead = 0;
  indexEntriesRead = 0;
  /** Rows that an index gave by itself, without their documents. */
  handedOver = 0;
  /** For each condition that is tested, in order, how many rows it looked at. */
  readonly lookedAt: number[] = [];
  /** Time of its own, beside what it shares with others of its loop. */
  ownMs = 0;
  shared: SharedTime | undefined;
  /** Of a join: how many rows found no partner, one, or several. */
  matches: { none: number; one: number; several: number } | undefined;
  /** Rows that came out of stages that are done inside this step, by their numbers. */
  readonly inner = new Map<NodeId, number>();
  /** Bytes that it holds now, and the most that it held. */
  held = 0;
  peak = 0;
  /** Whether it came to its end. */
  finished = false;
  /** Whether it left its input because enough rows had come. */
  hadEnough = false;

  get timeMs(): number {
    return this.ownMs + (this.shared?.shareOf(this) ?? 0);
  }

  /** Adds time that passed while it, or all of its loop, was at work. */
  worked(ms: number): void {
    if (this.shared === undefined) this.ownMs += ms;
    else this.shared.workedMs += ms;
  }

  /** Whether there was more that it did not look at. */
  get stoppedEarly(): boolean {
    return this.hadEnough || !this.finished;
  }
}

export interface Costs {
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  readonly rowsReturned: number;
  /** The most bytes held at one time by all operators together. */
  readonly memoryBytes: number;
  readonly timeMs: number;
}

/** Counts what every operator of a run reads, holds and gives out. */
export class Meter {
  private readonly meters = new Map<PhysicalStep, StepMeter>();
  documentsRead = 0;
  held = 0;
  peak = 0;
  /** Bytes of the rows of the result. */
  kept = 0;

  of(step: PhysicalStep): StepMeter {
    let meter = this.meters.get(step);
    if (meter === undefined) this.meters.set(step, (meter = new StepMeter()));
    return meter;
  }

  read(meter: StepMeter, documents: number): void {
    meter.documentsRead += documents;
    this.documentsRead += documents;
  }

  /** Notes that an operator holds so many bytes more (or fewer). */
  hold(meter: StepMeter, bytes: number): void {
    meter.held += bytes;
    if (meter.held > meter.peak) meter.peak = meter.held;
    this.held += bytes;
    if (this.held > this.peak) this.peak = this.held;
  }

  /** Notes that the result has so many bytes more. */
  keep(bytes: number): void {
    this.kept += bytes;
    this.held += bytes;
    if (this.held > this.peak) this.peak = this.held;
  }

  get indexEntriesRead(): number {
    let entries = 0;
    for (const meter of this.meters.values()) entries += meter.indexEntriesRead;
    return entries;
  }
}
