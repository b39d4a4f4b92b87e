import type { Measure, OrderKey } from './stages/stage.ts';
import type { Expression } from './tree.ts';

/** How a face of the language writes the parts of a pipeline in what it says of them: reasons, findings, notes, steps of a plan. */
export interface Words {
  readonly expression: (expression: Expression) => string;
  readonly orderKey: (key: OrderKey) => string;
  readonly measure: (measure: Measure) => string;
  /** A name that a stage gives. */
  readonly name: (names: readonly string[]) => string;
  /** A field of a row. */
  readonly field: (names: readonly string[]) => string;
  /** Stages, by the 1-based lines on which they stand, such as `line 3` or `lines 3, 4`. */
  readonly places: (lines: readonly number[]) => string;
}
