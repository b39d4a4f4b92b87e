import type { BuiltIndex } from '../../indexes/kind.ts';
import type { OrderKey } from '../../language/stages/stage.ts';
import type { Told } from '../../language/wording.ts';
import type { Conjunct } from '../conjuncts.ts';
import type { Covering } from '../physical.ts';
import type { IndexStatistics } from '../statistics.ts';
import type { FieldsRead } from './covering.ts';
import type { Disjunction } from './disjunction.ts';
import type { KeyCondition } from './keyConditions.ts';
import type { IndexMatch } from './indexMatch.ts';
import type { PositionsPath } from '../positionsIndex.ts';
import type { IndexPart } from '../scans.ts';

/** What is asked of a collection before any other stage: conditions, perhaps an order, perhaps only the first rows. */
export interface AccessQuestion {
  readonly conjuncts: readonly Conjunct[];
  readonly conditions: readonly KeyCondition[];
  /** Conditions joined by `||` that no key condition stands for. */
  readonly alternatives: readonly Disjunction[];
  readonly order: readonly OrderKey[];
  /** So many rows in that order are all that is wanted; undefined for all. */
  readonly demand: number | undefined;
  /** So many rows of it are passed over first, where nothing stands between; they are among those in `demand`. */
  readonly skip: number;
  /** All that the pipeline reads of the documents, where that is known. */
  readonly read: FieldsRead;
}

/** A way to get at the documents, with what it would cost. */
export interface AccessPath {
  readonly kind: 'fullScan' | 'index' | 'indexSet' | 'positions';
  readonly statistics?: IndexStatistics;
  readonly match?: IndexMatch;
  /** The rows are made of the keys, and no document is read. */
  readonly covering?: Covering;
  /** So many entries are passed over by counting them. */
  readonly skipped?: number;
  /** Several indexes whose positions are put together. */
  readonly set?: IndexSet;
  /** What an index of another kind than the ordered one finds. */
  readonly path?: PositionsPath;
  readonly documentsRead: number;
  readonly indexEntriesRead: number;
  /** Rows that are sorted because the way does not give the order. */
  readonly rowsSorted: number;
  readonly rows: number;
  /** In units of reading one document in a scan; the part of it that sorting those rows takes. */
  readonly cost: number;
  readonly sorting: number;
}

/** Positions that several indexes give together. */
export interface IndexSet {
  readonly combine: 'union' | 'intersection';
  readonly parts: readonly SetPart[];
  /** The conditions that it stands for; those that need no second test. */
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
}

/** What one index of any kind gives to it. */
export interface SetPart {
  readonly statistics: AnyIndex;
  readonly asks: IndexPart;
  /** About how many entries it finds. */
  readonly entries: number;
  readonly used: readonly Conjunct[];
  readonly served: readonly Conjunct[];
}

/** The conditions that a way serves whole. */
export function servedBy({ match, set, path }: AccessPath): readonly Conjunct[] {
  return (match ?? set ?? path)?.served ?? [];
}
/** The conditions that a way looks for. */
export function usedBy({ match, set, path }: AccessPath): readonly Conjunct[] {
  return (match ?? set ?? path)?.used ?? [];
}

/** An index of any kind, built or not. */
export type AnyIndex = Pick<IndexStatistics, 'definition'> & { readonly built: BuiltIndex | undefined };

export interface UselessIndex {
  readonly statistics: AnyIndex;
  readonly reason: Told;
}

export function leastOf(ways: readonly AccessPath[]): AccessPath {
  return ways.reduce((best, way) => (way.cost < best.cost ? way : best));
}
