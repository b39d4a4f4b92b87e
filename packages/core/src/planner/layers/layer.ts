import type { NodeId } from '../../language/places.ts';
import type { Constant } from '../paths/keyConditions.ts';
import type { PlannedStage, Rewrite } from '../logical.ts';
import type { PhysicalStep } from '../physical.ts';
import type { Weighed } from '../explain/reasons.ts';
import type { PositionsIndex } from '../positionsIndex.ts';
import type { PlannedSource } from '../source.ts';

/** A source as a stage names it: a collection, or a view with its own stages. */
export type NamedSource =
  { readonly kind: 'collection'; readonly source: PlannedSource } | { readonly kind: 'view'; readonly stages: readonly PlannedStage[] };
/** Where a source is named: the stage, and the name in it. */
export interface Naming {
  readonly stage: NodeId;
  readonly source: NodeId;
}
export type SourceLookup = (name: string, at: Naming) => NamedSource;

/** What layers of a plan share. */
export interface LayContext {
  readonly constant: Constant;
  readonly countOf: (stage: PlannedStage) => number;
  /** What is known of a collection that a stage names. */
  readonly collection: (name: string, at: Naming) => PlannedSource;
  readonly indexIsAllowed: (name: string) => boolean;
  /** Whether partners are to be looked up in an index where they can be; undefined to go by cost. */
  readonly byIndex: boolean | undefined;
  /** Whether an index is one that is insisted on. */
  readonly isNamed: (index: string) => boolean;
  /** The collection that the rows come from. */
  readonly source: PlannedSource;
  /** Indexes of other kinds than the ordered one that may be used. */
  readonly others: readonly PositionsIndex[];
  /** Plans a view's stages. */
  readonly planView: (stages: readonly PlannedStage[]) => PhysicalStep;
  /** Told ways of joins, and rewrites made while laying. */
  readonly weighed: Weighed[];
  readonly rewrites: Rewrite[];
  readonly mayFuse: boolean;
  readonly keepsUsed: boolean;
}
