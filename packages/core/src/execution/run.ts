import { milliseconds } from '../values/clock.ts';
import { makeContext, type Context } from '../expressions/context.ts';
import type { BuiltIndex } from '../indexes/kind.ts';
import type { PhysicalPlan, PhysicalStep } from '../planner/physical.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { Json } from '../values/json.ts';
import type { Batch, Rows } from './batch.ts';
import { Watch, type Guards } from './guards.ts';
import { Meter, type Costs } from './meter.ts';
import { ownedBytes } from './ownership.ts';
import { RowList } from './rowList.ts';
import { operatorOf } from './operators/registry.ts';
import type { Runtime } from './runtime.ts';
import { segmentsOf, type Segments } from './segments/segment.ts';

export interface RunOptions {
  readonly parameters: Readonly<Record<string, Json>>;
  readonly now: string;
  readonly guards: Guards;
  readonly isCancelled: () => boolean;
  /** A bounded run: ends after so many documents without an error, and says so. */
  readonly readAtMost?: number;
  /** … or after so many milliseconds of work. */
  readonly workAtMostMs?: number | undefined;
  readonly storeOf: (collection: string) => DocumentStore;
  readonly indexOf: (collection: string, name: string) => BuiltIndex;
  /** How many rows go from one operator to the next at a time; few in tests. */
  readonly batchRows?: number;
  /** Whether steps that follow one another are one loop, as usual; a loop of each gives the same. */
  readonly fused?: boolean | undefined;
  /** False where nobody asks which documents rows come from. */
  readonly places?: boolean;
  /** Whether groups give with their rows what sums were before they were rounded, for rows that are kept. */
  readonly keepsSums?: boolean;
  /** Takes the rows as they come, instead of their being kept. */
  readonly take?: (rows: readonly Json[]) => void;
}

/** What is wanted of a run beside its costs: its rows and where they come from, unless it is said. */
export type Wanted = Pick<RunOptions, 'take' | 'places' | 'keepsSums'>;

export const rowsAlone: Wanted = { places: false };
/** Rows that are kept have their sums with them as they were before they were rounded. */
export const rowsToKeep: Wanted = { places: false, keepsSums: true };

// The larger, the longer those that ask for little wait beside one that asks for much; smaller ones cost nothing that can be measured.
const usualBatch = 512;
/** Documents that a scan goes through at a time, at most. */
const usualScan = 1_024;
/** Work that takes no longer is not broken off. */
const leastMs = 1;
/** What a row that is kept holds beside itself: its place in a list that grows. */
const heldPerKeptRow = 10;

/** The step at the bottom, from which rows come. */
function accessOf(step: PhysicalStep): PhysicalStep {
  return 'input' in step ? accessOf(step.input) : step;
}

/** One execution of a physical plan. */
export class Run {
  readonly meter = new Meter();
  readonly context: Context;
  readonly watch: Watch;
  readonly kept = new RowList();
  /** Undefined where nobody asks where rows come from. */
  private readonly places: number[] | undefined;
  private readonly take: RunOptions['take'];
  private readonly bytesOf: (row: Json) => number;
  private readonly plan: PhysicalPlan;
  private readonly segments: Segments;
  private readonly batches: Rows;
  private readonly runtime: Runtime;
  done = false;

  constructor(plan: PhysicalPlan, options: RunOptions) {
    this.plan = plan;
    this.take = options.take;
    this.places = (options.places ?? true) ? [] : undefined;
    this.bytesOf = ownedBytes(plan.root);
    this.segments = segmentsOf(plan, options.fused ?? true);
    this.context = makeContext(options.parameters, options.now);
    this.watch = new Watch(options.guards, this.meter, options.isCancelled, options, accessOf(plan.root));
    this.runtime = {
      context: this.context,
      meter: this.meter,
      watch: this.watch,
      storeOf: options.storeOf,
      indexOf: options.indexOf,
      batchRows: options.batchRows ?? usualBatch,
      scanRows: options.batchRows ?? usualScan,
      keepsSums: options.keepsSums ?? false,
      open: (step) => this.metered(step),
      result: this.take === undefined ? { of: plan.root, rows: this.kept, positions: this.places } : undefined,
    };
    this.batches = this.metered(plan.root);
  }

  /**
   * Works for about so many milliseconds, or less where others wait meanwhile.
   * @returns whether the run has come to its end
   * @throws GuardTripped, RunCancelled
   */
  work(sliceMs: number, isAwaited: () => boolean = () => false): boolean {
    const until = milliseconds() + sliceMs;
    while (!this.done) {
      const { value, done } = this.batches.next();
      if (done) {
        this.watch.lookAtMemory(this.plan.root);
        this.done = true;
        break;
      }
      this.keep(value);
      this.watch.look(this.plan.root);
      const now = milliseconds();
      // Those that are soon done shall not wait for one another.
      if (now >= until || (now >= until - sliceMs + leastMs && isAwaited())) break;
    }
    return this.done;
  }

  private keep({ rows, positions, bytes, left = 0 }: Batch): void {
    if (this.take !== undefined) {
      this.take(rows);
      return;
    }
    let owned = bytes ?? 0;
    this.kept.add(rows.slice());
    for (let i = 0; i < rows.length; i++) {
      this.places?.push(positions[i]!);
      if (bytes === undefined) owned += this.bytesOf(rows[i]!);
    }
    this.meter.keep(owned + (left + rows.length) * (this.places === undefined ? heldPerKeptRow : 2 * heldPerKeptRow));
  }

  /** All rows in one list. */
  get rows(): readonly Json[] {
    return (this.listed ??= this.kept.all());
  }
  private listed: readonly Json[] | undefined;

  /** The positions of the documents that the rows come from, side by side with them. */
  get positions(): readonly number[] {
    if (this.places === undefined) throw new Error('where its rows come from was not asked of this run');
    return this.places;
  }

  /** Ends the operators of a run that is not worked to its end. */
  close(): void {
    this.batches.return();
  }

  /** Counts rows out and the operator's own time: what passes while it works, less what its inputs take. */
  private *metered(step: PhysicalStep): Rows {
    const meter = this.meter.of(step);
    const rows = operatorOf(step, this.segments)(step, this.runtime, meter);
    try {
      for (;;) {
        const outer = this.inside;
        this.inside = 0;
        const started = milliseconds();
        let result: IteratorResult<Batch, void>;
        try {
          result = rows.next();
        } finally {
          const elapsed = milliseconds() - started;
          meter.worked(elapsed - this.inside);
          this.inside = outer + elapsed;
        }
        if (result.done) {
          meter.finished = true;
          return;
        }
        meter.rowsOut += result.value.rows.length + (result.value.left ?? 0);
        yield result.value;
      }
    } finally {
      rows.return();
    }
  }
  /** Time spent in the inputs of the operator at work. */
  private inside = 0;

  get costs(): Costs {
    return {
      documentsRead: this.meter.documentsRead,
      indexEntriesRead: this.meter.indexEntriesRead,
      rowsReturned: this.kept.length,
      memoryBytes: this.meter.peak,
      timeMs: this.watch.elapsedMs,
    };
  }
}
