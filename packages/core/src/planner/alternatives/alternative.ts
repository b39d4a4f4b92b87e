import type { AskedSource } from '../askedSource.ts';
import type { AccessPath } from '../paths/path.ts';
import type { PlannedStage } from '../logical.ts';
import type { Planned } from '../planned.ts';
import { planCost } from '../planCost.ts';

/** A whole plan that would answer, with what it was made of. */
export interface Alternative {
  readonly planned: Planned;
  readonly asked: AskedSource;
  /** The path to its documents. */
  readonly chosen: AccessPath;
  /** Whether its path gives the order that follows the conditions, whole. */
  readonly givesOrder: boolean;
}

/** What a whole plan costs, from end to end. */
export function costOf({ planned }: Alternative): number {
  return planCost(planned.physical.root);
}

/** Lays stages out as an alternative, however it is planned. */
export type Lay = (stages: readonly PlannedStage[], about?: number) => Alternative;
