import type { NodeId } from '../language/places.ts';
import type { IndexRange } from '../indexes/ordered/sortedEntries.ts';
import type { OrderKey } from '../language/stages/stage.ts';
import type { Expression } from '../language/tree.ts';
import type { NullsPlace } from '../values/order.ts';

/** What every step of a plan says of itself. */
export interface Common {
  /** The stages that the step works for. */
  readonly stages: readonly NodeId[];
  readonly estimatedRows: number;
}

/** Reads every document of a collection, testing a condition on the way. */
export interface FullScan extends Common {
  readonly kind: 'fullScan';
  /** Whether what it reads are the rows of a materialized view. */
  readonly ofView?: boolean | undefined;
  /** In units of reading one document in a scan. */
  readonly cost: number;
  readonly collection: string;
  readonly condition: Expression | undefined;
  /** So many rows are all that later steps take, where that is known. */
  readonly demand: number | undefined;
}

/** How an index is walked where its order is wanted. */
export interface OrderedWalk {
  /** The keys of the order are those of the index from `start` up to `end`. */
  readonly start: number;
  readonly end: number;
  readonly backwards: boolean;
  /** In the order of the index, without what goes by `empties`. */
  readonly ranges: readonly IndexRange[];
  /** One range after another, or the least entry of all of them each time. */
  readonly together: 'in turn' | 'merged';
  /** Entries with null or nothing at the first key of the order, which tie there; undefined where none are walked apart. */
  readonly empties: WalkedEmpties | undefined;
  /** Where each key of the order wants null and missing. */
  readonly nulls: readonly NullsPlace[];
  /** The keys of the order that it gives, and those that are left to be sorted among entries that tie on these. */
  readonly given: readonly OrderKey[];
  readonly left: readonly OrderKey[];
}
export interface WalkedEmpties {
  readonly place: NullsPlace;
  readonly range: IndexRange;
  /** Whether documents that have no entry at all belong there too. */
  readonly withAbsent: boolean;
}

/** Reads the documents that ranges of an index name. */
export interface IndexScan extends Common {
  readonly kind: 'indexScan';
  /** In units of reading one document in a scan. */
  readonly cost: number;
  readonly collection: string;
  readonly index: string;
  readonly ranges: readonly IndexRange[];
  /** Whether each range is one point of all keys. */
  readonly lookup: boolean;
  /** The parameter whose value is the key, where the plan serves all its values: `ranges` has the one that it was made for. */
  readonly lookedUp?: string;
  /** In the order of the index; else in insertion order. */
  readonly ordered: OrderedWalk | undefined;
  /** So many are passed over in the order of the index by counting them: none of those is read. */
  readonly skip: number;
  /** Whether documents that have no entry are read too. */
  readonly withAbsent: boolean;
  /** The rows are made of the keys alone and no document is read; undefined where documents are. */
  readonly covering: Covering | undefined;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
  /** About how many rows will be taken, where it is not known for sure: more than them is not read at a time. */
  readonly pace: number | undefined;
}

/** How rows are made of an index's keys. */
export interface Covering {
  /** Where each key stands in a row; undefined for keys that are not wanted there. */
  readonly targets: readonly (readonly string[] | undefined)[];
  /** Whether documents that have no entry are rows too, without any of the keys. */
  readonly absent: boolean;
}

/** Reads the documents that several indexes name together: any of them, or all of them. */
export interface IndexSetScan extends Common {
  readonly kind: 'indexSetScan';
  /** In units of reading one document in a scan. */
  readonly cost: number;
  readonly combine: 'union' | 'intersection';
  readonly collection: string;
  readonly parts: readonly IndexPart[];
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
}
/** What one index is asked: ranges of its order, or what its kind looks for, in the form of that kind and in words. */
export type IndexPart = { readonly index: string } & (
  { readonly ranges: readonly IndexRange[] } | { readonly lookup: unknown; readonly words: string }
);

/** Reads the documents whose positions an index of another kind than the ordered one finds. */
export interface PositionsScan extends Common {
  readonly kind: 'positionsScan';
  /** In units of reading one document in a scan. */
  readonly cost: number;
  readonly collection: string;
  readonly index: string;
  /** What the index is asked, in the form of its kind; and in words. */
  readonly lookup: unknown;
  readonly words: string;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
}

/** What an index tells of its entries without the documents. */
export type AnsweredAggregate = 'count' | 'count_distinct' | 'min' | 'max';

/** Groups that an index answers by itself: how many entries, the first and the last, or the different keys. */
export interface IndexAggregate extends Common {
  readonly kind: 'indexAggregate';
  /** In units of reading one document in a scan. */
  readonly cost: number;
  readonly collection: string;
  readonly index: string;
  readonly range: IndexRange;
  /** Whether documents that have no entry count too. */
  readonly absent: boolean;
  /** Where the key is put that makes the groups; undefined for one group of everything. */
  readonly by: readonly string[] | undefined;
  readonly measures: readonly { readonly target: readonly string[]; readonly aggregate: AnsweredAggregate }[];
  /** The stages whose rows it goes through without their becoming rows. */
  readonly inner: readonly NodeId[];
}

/** One of several rankings that are fused, as an index gives it. */
export interface IndexRanking {
  readonly index: string;
  readonly expression: Expression;
  readonly weight: number;
  /** How many candidates are looked at, where the ranking may be approximate. */
  readonly effort: number | undefined;
}

/** The first documents of several rankings, each as an index gives it, fused: nothing is read that is in none of them. */
export interface FusedScan extends Common {
  readonly kind: 'fusedScan';
  readonly collection: string;
  readonly rankings: readonly IndexRanking[];
  /** How many places of each ranking count. */
  readonly depth: number;
  readonly count: number;
  readonly target: readonly string[] | undefined;
  /** The conditions of each line before it, by the stage. */
  readonly conditions: readonly { readonly stage: NodeId; readonly condition: Expression }[];
  /** The stages that are done inside it. */
  readonly inner: readonly NodeId[];
  readonly cost: number;
}

/** Documents from the highest score on, as an index gives them, until so many have met the conditions. */
export interface ScoredScan extends Common {
  readonly kind: 'scoredScan';
  readonly collection: string;
  readonly index: string;
  readonly expression: Expression;
  readonly count: number;
  /** How many candidates are looked at, where the answer may be approximate. */
  readonly effort: number | undefined;
  readonly target: readonly string[] | undefined;
  /** The conditions of each line before it, by the stage. */
  readonly conditions: readonly { readonly stage: NodeId; readonly condition: Expression }[];
  /** The stages that are done inside it. */
  readonly inner: readonly NodeId[];
  readonly cost: number;
}
