import type { NodeId } from './places.ts';

/** How the text that was asked in calls its own parts: what is told of a plan is worded by whoever asked. */
export interface Wording {
  /** Stages, such as `line 3` or `lines 3, 4`. */
  readonly stages: (ids: readonly NodeId[]) => string;
}

/** Words that are made when someone reads them. */
export type Told = (wording: Wording) => string;
