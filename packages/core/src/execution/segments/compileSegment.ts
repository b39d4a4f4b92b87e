import type { Atom } from '../../expressions/emitter.ts';
import { openDoor } from '../../expressions/door.ts';
import { Slots } from '../../expressions/slots.ts';
import type { Context } from '../../expressions/context.ts';
import type { PhysicalStep } from '../../planner/physical.ts';
import type { Json, JsonObject } from '../../values/json.ts';
import type { StepMeter } from '../meter.ts';
import type { JoinTable } from './joinTable.ts';
import { Loop } from './loop.ts';
import type { Settled } from './rowStep.ts';
import { isEnd, type Segment } from './segment.ts';
import { emitConditions } from './steps/filter.ts';
import { rowStepOf } from './steps/registry.ts';

/** What a loop is handed beside what it goes through. `T` is what its end takes rows into. */
export interface Handed<T> {
  readonly into: T;
  readonly tables: readonly (JoinTable | undefined)[];
  /** Looks at guards and cancel, amid a row that takes long. */
  readonly look: () => void;
  /** What is counted is added to. */
  readonly counts: Float64Array;
}

/** Goes through `[from, to)` of rows, with their positions beside them; of documents (holes passed over) the place is the position. */
export type Kernel<T> = (
  rows: readonly (Json | undefined)[],
  positions: readonly number[],
  stretch: { readonly from: number; readonly to: number },
  handed: Handed<T>,
  context: Context,
) => void;

/** What stands at the end of a loop, written inside it. */
export interface LoopEnd {
  /** Statements before the loop: what is handed to it under `into`. */
  readonly prepare: string;
  /** Statements after it. */
  readonly finish?: string;
  readonly emit: (loop: Loop, row: Slots, position: Atom) => void;
}

export interface CompiledSegment<T> {
  readonly kernel: Kernel<T>;
  /** The body of the function, and what its k0, k1, … stand for. */
  readonly source: string;
  readonly data: readonly unknown[];
  readonly counterCount: number;
  readonly read: number;
  readonly work: number;
  /** Rows that came out of each step, the scan first where there is one: their places in what is counted. */
  readonly out: readonly { readonly step: PhysicalStep; readonly place: number; readonly settled: Settled }[];
}

/** Writes a segment as one function. */
export function compileSegment<T>(segment: Segment, end: LoopEnd): CompiledSegment<T> {
  const loop = new Loop();
  const { emitter } = loop;
  const read = loop.counter();
  const out: CompiledSegment<T>['out'][number][] = [];
  const counted = (step: PhysicalStep, settled: Settled, counter: Atom): void => void out.unshift({ step, settled, place: loop.placeOf(counter) }); // prettier-ignore
  const position = segment.scan === undefined ? 'positions[i]' : 'i';
  const from = (at: number, row: Slots): void => {
    const step = segment.steps[at];
    if (step === undefined) {
      end.emit(loop, row, position);
      return;
    }
    const counter = loop.counter();
    const settled = rowStepOf(step).emit(
      loop,
      step,
      row,
      (made) => {
        emitter.line(`${counter}++;`);
        from(at + 1, made);
      },
      `table${at}`,
    );
    counted(step, settled, counter);
  };
  emitter.line('const { from, to } = stretch; const { into, tables, look, counts } = handed;');
  emitter.line(end.prepare);
  segment.steps.forEach(({ kind }, at) => {
    if (kind === 'hashJoin') emitter.line(`const table${at} = tables[${at}];`);
  });
  emitter.block('for (let i = from; i < to; i++)', () => {
    emitter.line('const row = rows[i];');
    const { scan } = segment;
    if (scan === undefined) {
      from(0, Slots.of('row'));
      return;
    }
    emitter.line('if (row === undefined) continue;');
    emitter.line(`${read}++;`);
    const counter = loop.counter();
    const settled = emitConditions(loop, scan.condition, Slots.of('row'));
    emitter.line(`${counter}++;`);
    from(0, Slots.of('row'));
    counted(scan, settled, counter);
  });
  if (end.finish !== undefined) emitter.line(end.finish);
  loop.settle();
  const body = emitter.body;
  return {
    kernel: openDoor(['rows', 'positions', 'stretch', 'handed', 'context'], body, emitter.data) as Kernel<T>,
    source: body,
    data: emitter.data,
    counterCount: loop.counterCount,
    read: loop.placeOf(read),
    work: loop.placeOf(loop.work),
    out,
  };
}

/** Rows of documents as they are handed to a loop. */
export type Documents = readonly (JsonObject | undefined)[];

/** The meter of each step of a segment, by what its loop has counted. Rows that leave at its end are counted by whoever takes them. */
export function settle<T>(
  { out }: CompiledSegment<T>,
  counts: Float64Array,
  end: PhysicalStep,
  meterOf: (step: PhysicalStep) => StepMeter,
): void {
  let before: number | undefined;
  for (const { step, place, settled } of out) {
    const meter = meterOf(step);
    if (before !== undefined) meter.rowsIn = before;
    before = counts[place]!;
    if (step !== end) meter.rowsOut = before;
    settled(counts, meter);
  }
  if (before !== undefined && isEnd(end)) meterOf(end).rowsIn = before;
}
