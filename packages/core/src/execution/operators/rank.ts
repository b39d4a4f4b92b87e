import type { Rank } from '../../planner/physical.ts';
import type { Operator } from '../runtime.ts';
import { rankAll } from './rankAll.ts';
import { rankBest } from './rankBest.ts';

/** Ranks all rows, or those alone that the next line keeps. */
export const rank: Operator<Rank> = function* (step, runtime, meter) {
  if (step.atMost === undefined) yield* rankAll(step, runtime, meter);
  else yield* rankBest({ ...step, atMost: step.atMost }, runtime, meter);
};
