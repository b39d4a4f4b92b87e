import type { NodeId } from '../language/places.ts';
import type { Told } from '../language/wording.ts';
import type { PipelineStage } from '../language/stages/stage.ts';

/** Where a stage stood that a rewrite has moved or dropped: its rows are counted there. */
export interface MarkStage {
  readonly kind: 'mark';
}
export type PlannableStage = PipelineStage | MarkStage;

/** A stage that is on and could be read. */
export interface PlannedStage<S extends PlannableStage = PlannableStage> {
  readonly stage: S;
  readonly id: NodeId;
  /** Of a join: the stages of the view that it names; undefined for a collection. */
  readonly partner?: readonly PlannedStage[];
  /** Its rows are counted elsewhere. */
  readonly uncounted?: true;
}

export function isStage<K extends PlannableStage['kind']>(
  planned: PlannedStage | undefined,
  kind: K,
): planned is PlannedStage<Extract<PlannableStage, { kind: K }>> {
  return planned?.stage.kind === kind;
}

/** What a rewrite did, as it is told. */
export interface Rewrite {
  readonly rule: RuleName;
  readonly detail: Told;
  readonly stages: readonly NodeId[];
}
export type RuleName =
  | 'where moved up'
  | 'order moved up'
  | 'limit moved up'
  | 'order dropped'
  | 'unused fields dropped'
  | 'used fields alone'
  | 'unnest joined to group'
  | 'offset counted'
  | 'index-only';

/** A rule: the pipeline with one change made, and what it was; undefined where there is none to make. */
export type RewriteRule = (
  stages: readonly PlannedStage[],
) => { readonly stages: readonly PlannedStage[]; readonly told: Omit<Rewrite, 'rule'> } | undefined;
