import type { IndexRange } from '../../indexes/ordered/sortedEntries.ts';
import type { Conjunct } from '../conjuncts.ts';
import type { OrderedWalk } from '../physical.ts';

/** How an index serves a question. */
export interface IndexMatch {
  readonly ranges: readonly IndexRange[];
  /** The conditions that the ranges stand for; those that need no second test. */
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
  readonly lookup: boolean;
  /** The order that it gives where the question asks for one and it can. */
  readonly ordered: OrderedWalk | undefined;
  /** A partial index that serves by its `where` alone: documents without its keys, which have no entry, are asked for too. */
  readonly withAbsent?: boolean;
  /** Whether the walk in order finds what the ranges alone do not. */
  readonly inOrderAlone?: boolean;
}
