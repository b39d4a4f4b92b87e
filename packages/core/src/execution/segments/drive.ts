import type { FullScan, PhysicalStep } from '../../planner/physical.ts';
import { stillWorking, type Batch, type Rows } from '../batch.ts';
import type { StepMeter } from '../meter.ts';
import { pulled, type Runtime } from '../runtime.ts';
import { settle, type CompiledSegment, type Documents } from './compileSegment.ts';
import { builtTables, releaseTables } from './joinTables.ts';
import { Pace } from './pace.ts';
import type { Segment } from './segment.ts';
import { ScanPace } from '../scanPace.ts';
import { sharedTime } from './shares.ts';

/** What becomes of the rows of a segment. */
export interface Taking<T> {
  readonly into: T;
  /** Makes room for what may come of so many rows. */
  readonly prepare?: (count: number) => void;
  /** Tells what is held by what was taken in. */
  readonly hold: () => void;
  /** What goes on of what was taken in. */
  readonly given: () => Batch;
  /** Puts what was taken in in order, where that is due. */
  readonly settling?: () => Rows | undefined;
  /** Is told what has been counted. */
  readonly settled?: (counts: Float64Array) => void;
}

/** Takes a stretch of what rows come from through the loop. */
type Passing = (rows: Documents | Batch['rows'], positions: readonly number[], from: number, to: number) => Rows;

/** Goes through what a segment's rows come from, a stretch at a time, with guards and cancel looked at between. */
export function* driven<T>(end: PhysicalStep, segment: Segment, compiled: CompiledSegment<T>, taking: Taking<T>, runtime: Runtime): Rows {
  const { context, watch, meter: runMeter } = runtime;
  const meterOf = (step: PhysicalStep): StepMeter => runMeter.of(step);
  const counts = new Float64Array(compiled.counterCount);
  settle(compiled, counts, end, meterOf);
  sharedTime(segment, end, runMeter);
  const tables = yield* builtTables(segment, runtime);
  const look = (): void => {
    taking.hold();
    watch.look(end);
  };
  const handed = { into: taking.into, tables, look, counts };
  const pace = new Pace(segment.scan === undefined ? runtime.batchRows : runtime.scanRows, segment.multiplies);
  const passed: Passing = function* (rows, positions, from, to) {
    for (let at = from; at < to;) {
      const until = Math.min(to, at + pace.size);
      const before = counts[compiled.work]!;
      taking.prepare?.(until - at);
      compiled.kernel(rows, positions, { from: at, to: until }, handed, context);
      pace.learn(until - at, counts[compiled.work]! - before);
      at = until;
      settle(compiled, counts, end, meterOf);
      taking.settled?.(counts);
      look();
      const settling = taking.settling?.();
      if (settling !== undefined) yield* settling;
      // Nothing is no reason to stop where there is more to go through at once.
      const given = taking.given();
      if (given.rows.length > 0 || given.left) yield given;
    }
  };
  if (segment.scan === undefined) yield* overRows(end, segment, passed, runtime);
  else yield* overDocuments(segment.scan, passed, () => counts[compiled.read]!, runtime);
  for (const step of segment.steps) if (step !== end) meterOf(step).finished = true;
  releaseTables(segment, runtime);
}

function* overRows(end: PhysicalStep, { steps, source }: Segment, passed: Passing, runtime: Runtime): Rows {
  // Rows that are dropped or kept alone come in the order of an index as it gave them.
  const keepsTies = steps.length > 0 && steps.every(({ kind }) => kind === 'filter');
  for (const { rows, positions, endsTie } of pulled(source, runtime, runtime.meter.of(steps[0] ?? end))) {
    yield* passed(rows, positions, 0, rows.length);
    yield keepsTies && endsTie === true ? { ...stillWorking, endsTie } : stillWorking;
  }
}

/** @param readSoFar how many documents the loop has looked at */
function* overDocuments(scan: FullScan, passed: Passing, readSoFar: () => number, runtime: Runtime): Rows {
  const { watch, meter: runMeter, scanRows, storeOf } = runtime;
  const meter = runMeter.of(scan);
  const { documents } = storeOf(scan.collection);
  const pace = new ScanPace(scanRows);
  for (let at = 0; at < documents.length;) {
    watch.look(scan);
    const allowed = watch.mayRead(scan, pace.size);
    if (allowed === 0) break;
    const before = readSoFar();
    const to = Math.min(documents.length, at + allowed);
    yield* passed(documents, [], at, to);
    pace.passed();
    at = to;
    runMeter.read(meter, readSoFar() - before);
    yield stillWorking;
  }
  meter.finished = true;
}
