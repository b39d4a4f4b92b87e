import type { Atom } from '../../expressions/emitter.ts';
import type { Slots } from '../../expressions/slots.ts';
import type { PhysicalStep } from '../../planner/physical.ts';
import type { StepMeter } from '../meter.ts';
import type { Loop } from './loop.ts';

/** What a step inside a loop has counted, put where its meter has it. */
export type Settled = (counts: Float64Array, meter: StepMeter) => void;

/** How one kind of step that takes rows one at a time is written into a loop. */
export interface RowStep<S extends PhysicalStep> {
  /** Whether a row may come out as many. */
  readonly multiplies: boolean;
  /**
   * Writes what is done with a row, and `body` with what comes of it, once however many rows that are. A row is dropped by `continue`.
   * @param made the atom of what was made for the step before the loop: the table of a join
   * @returns how what was counted is told
   */
  readonly emit: (loop: Loop, step: S, row: Slots, body: (row: Slots) => void, made: Atom) => Settled;
}

export const nothingSettled: Settled = () => undefined;
