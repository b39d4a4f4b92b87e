import type { Context } from '../expressions/context.ts';
import type { BuiltIndex } from '../indexes/kind.ts';
import type { PhysicalStep } from '../planner/physical.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { Batch, Rows } from './batch.ts';
import type { Watch } from './guards.ts';
import type { Meter, StepMeter } from './meter.ts';
import type { RowList } from './rowList.ts';

/** What the operators of one run share. */
export interface Runtime {
  readonly context: Context;
  readonly meter: Meter;
  readonly watch: Watch;
  readonly storeOf: (collection: string) => DocumentStore;
  readonly indexOf: (collection: string, name: string) => BuiltIndex;
  /** How many rows a batch has at most; operators may have bounds of their own below it. */
  readonly batchRows: number;
  /** How many documents a scan goes through at a time, at most. */
  readonly scanRows: number;
  /** Whether groups give with their rows what sums were before they were rounded. */
  readonly keepsSums: boolean;
  /** Where the rows of the last step go, where they are kept: it may put them there itself. */
  readonly result: { readonly of: PhysicalStep; readonly rows: RowList; readonly positions: number[] | undefined } | undefined;
  /** Opens a step's operator, metered. */
  readonly open: (step: PhysicalStep) => Rows;
}

/** An operator: a generator of batches, opened once for each run. */
export type Operator<S extends PhysicalStep> = (step: S, runtime: Runtime, meter: StepMeter) => Rows;

/** Pulls an input to its end, counting what comes in. Empty batches are passed on by the caller. */
export function* pulled(input: PhysicalStep, runtime: Runtime, meter: StepMeter): Generator<Batch> {
  for (const batch of runtime.open(input)) {
    meter.rowsIn += batch.rows.length;
    yield batch;
  }
}
