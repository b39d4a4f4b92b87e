import { compileCondition } from '../../expressions/compile.ts';
import type { FusedScan, ScoredScan } from '../../planner/physical.ts';
import type { StepMeter } from '../meter.ts';
import type { Runtime } from '../runtime.ts';

/** Which documents meet the conditions of a scan by scores: each is read, and counted, once. */
export class Fitting {
  /** Whether anything is asked of documents beside their scores. */
  readonly isAsked: boolean;
  readonly fits: (position: number) => boolean;

  constructor({ collection, conditions, inner }: ScoredScan | FusedScan, { context, meter: runMeter, storeOf }: Runtime, meter: StepMeter) {
    const { documents } = storeOf(collection);
    const tests = conditions.map(({ stage, condition }) => ({ stage, holds: compileCondition(condition) }));
    const known = new Map<number, boolean>();
    for (const stage of inner) meter.inner.set(stage, 0);
    const look = (position: number): boolean => {
      runMeter.read(meter, 1);
      return tests.every(({ stage, holds }, at) => {
        meter.lookedAt[at] = (meter.lookedAt[at] ?? 0) + 1;
        if (!holds(documents[position]!, context)) return false;
        meter.inner.set(stage, (meter.inner.get(stage) ?? 0) + 1);
        return true;
      });
    };
    this.isAsked = tests.length > 0;
    this.fits = (position) => {
      let does = known.get(position);
      if (does === undefined) known.set(position, (does = look(position)));
      return does;
    };
  }
}
