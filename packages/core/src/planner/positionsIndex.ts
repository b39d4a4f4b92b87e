import type { IndexDefinition } from '../indexes/definition.ts';
import type { BuiltIndex } from '../indexes/kind.ts';
import type { Conjunct } from './conjuncts.ts';

/** An index that answers with positions, as the planner knows it: built, or over a sample. */
export interface PositionsIndex {
  readonly definition: IndexDefinition;
  readonly built: BuiltIndex | undefined;
  /** The index that is asked: the built one, or one over a sample. */
  readonly index: BuiltIndex;
  /** Documents of the collection for each that it was built of. */
  readonly scale: number;
}

/** A way of such an index, for the plan. */
export interface PositionsPath {
  readonly statistics: PositionsIndex;
  readonly lookup: unknown;
  readonly words: string;
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
}
