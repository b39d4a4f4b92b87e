import type { PlannedStage } from '../logical.ts';

/** A materialized view as the planner knows it: what its rows answer, and whether they still do. */
export interface KeptView {
  readonly name: string;
  /** How many there are in memory. */
  readonly rows: number;
  /** Its pipeline, with the views that it reads put in their places; undefined where it is read by name alone. */
  readonly stages: readonly PlannedStage[] | undefined;
  /** Whether they have with them what their sums were before they were rounded. */
  readonly keepsSums: boolean;
  /** Why it is not used unasked; undefined where its rows are those that its pipeline gives now. */
  readonly unusable: string | undefined;
}
