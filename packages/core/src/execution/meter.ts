import type { NodeId } from '../language/places.ts';
import type { PhysicalStep } from '../planner/physical.ts';

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
  timeMs = 0;
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
