import type { NodeId } from '../language/places.ts';
import type { IndexRange } from '../indexes/ordered/sortedEntries.ts';
import type { NullsPlace } from '../values/order.ts';
import type { Expression, PathExpression } from '../language/tree.ts';
import type { Assignment, JoinKind, Measure, OrderKey, RankKind, SelectItem } from '../language/stages/stage.ts';

interface Common {
  /** The stages that the step works for. */
  readonly stages: readonly NodeId[];
  readonly estimatedRows: number;
}

/** Reads every document of a collection, testing a condition on the way. */
export interface FullScan extends Common {
  readonly kind: 'fullScan';
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
  /** In the order of the index; else in insertion order. */
  readonly ordered: OrderedWalk | undefined;
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
export interface IndexPart {
  readonly index: string;
  readonly ranges: readonly IndexRange[];
}

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

export interface Filter extends Common {
  readonly kind: 'filter';
  readonly condition: Expression;
  readonly input: PhysicalStep;
}
export interface Project extends Common {
  readonly kind: 'project';
  readonly items: readonly SelectItem[];
  readonly input: PhysicalStep;
}
export interface Omit extends Common {
  readonly kind: 'omit';
  readonly paths: readonly PathExpression[];
  readonly input: PhysicalStep;
}
export interface Compute extends Common {
  readonly kind: 'compute';
  readonly assignments: readonly Assignment[];
  readonly input: PhysicalStep;
}
export interface TakeSample extends Common {
  readonly kind: 'sample';
  readonly count: number;
  /** Undefined for other rows each time. */
  readonly seed: number | undefined;
  readonly input: PhysicalStep;
}
export interface Sort extends Common {
  readonly kind: 'sort';
  readonly keys: readonly OrderKey[];
  readonly input: PhysicalStep;
}
/** Rows come in the order of some keys; those that tie on them are put in the order of others. */
export interface PartialSort extends Common {
  readonly kind: 'partialSort';
  readonly given: readonly OrderKey[];
  readonly left: readonly OrderKey[];
  readonly input: PhysicalStep;
}
export interface TopNSort extends Common {
  readonly kind: 'topNSort';
  readonly keys: readonly OrderKey[];
  readonly count: number;
  readonly input: PhysicalStep;
}
export interface Offset extends Common {
  readonly kind: 'offset';
  readonly count: number;
  readonly input: PhysicalStep;
}
export interface Limit extends Common {
  readonly kind: 'limit';
  readonly count: number;
  readonly input: PhysicalStep;
}

/** The fields of a row that later stages look at; undefined where they may look at any. */
export type UsedFields = readonly string[] | undefined;

/** One row for each element of an array. */
export interface Unnest extends Common {
  readonly kind: 'unnest';
  readonly path: PathExpression;
  readonly target: readonly string[];
  readonly position: readonly string[] | undefined;
  readonly keepEmpty: boolean;
  readonly used: UsedFields;
  readonly input: PhysicalStep;
}

/** How rows meet their partners: the keys of both sides, side by side, and what is tested on each pair. */
export interface JoinMatch {
  readonly mode: JoinKind;
  /** Where the partner is put, and what it is called in `residual`. */
  readonly target: readonly string[];
  readonly partner: string;
  /** Of the row, and of the partner as the current row. */
  readonly leftKeys: readonly Expression[];
  readonly rightKeys: readonly Expression[];
  /** Whether the one key of a side is an array, any element of which may meet the other. */
  readonly leftIsList: boolean;
  readonly rightIsList: boolean;
  readonly residual: Expression | undefined;
  readonly used: UsedFields;
}

/** Puts the partners into a hash table by their keys, then asks it for each row. */
export interface HashJoin extends Common {
  readonly kind: 'hashJoin';
  readonly match: JoinMatch;
  readonly input: PhysicalStep;
  readonly partners: PhysicalStep;
}

/** Looks each row's partners up in an index of theirs. */
export interface IndexJoin extends Common {
  readonly kind: 'indexJoin';
  readonly match: JoinMatch;
  readonly collection: string;
  readonly index: string;
  /** Tested on a partner before the pair is looked at. */
  readonly condition: Expression | undefined;
  readonly input: PhysicalStep;
}

/** One row for each different key. Without keys, one row for everything. */
export interface Group extends Common {
  readonly kind: 'group';
  readonly keys: readonly SelectItem[] | undefined;
  readonly measures: readonly Measure[];
  /** An array that is taken apart on the way, its elements never becoming rows. */
  readonly unnested: Unnested | undefined;
  readonly input: PhysicalStep;
}

export interface Unnested {
  readonly path: PathExpression;
  /** What the element is called in keys and measures. */
  readonly element: string;
  readonly keepEmpty: boolean;
  /** Tested on each element with its row. */
  readonly condition: Expression | undefined;
  /** The stages that are done on the way, in their order. */
  readonly stages: readonly NodeId[];
}

/** Puts a rank into each row. */
export interface Rank extends Common {
  readonly kind: 'rank';
  readonly ranking: RankKind;
  readonly target: readonly string[];
  readonly partition: readonly Expression[];
  readonly keys: readonly OrderKey[];
  /** Rows of a greater rank are dropped by the next line, so they are not held. */
  readonly atMost: number | undefined;
  readonly input: PhysicalStep;
}

/** A step of a physical plan; each has an operator of its own. */
export type PhysicalStep =
  | FullScan
  | IndexScan
  | IndexSetScan
  | PositionsScan
  | IndexAggregate
  | Filter
  | Project
  | Omit
  | Compute
  | Sort
  | PartialSort
  | TopNSort
  | Offset
  | Limit
  | TakeSample
  | Unnest
  | HashJoin
  | IndexJoin
  | Group
  | Rank;
export type StepKind = PhysicalStep['kind'];

/** The rows of a stage come out of this step: what it read, took in, or gave out. */
export interface LineSource {
  readonly id: NodeId;
  readonly step: PhysicalStep;
  /** `inner` where the stage is done inside a step that does more. */
  readonly counts: 'read' | 'in' | 'out' | 'inner';
}

export interface PhysicalPlan {
  readonly root: PhysicalStep;
  readonly stages: readonly LineSource[];
}

export function inputsOf(step: PhysicalStep): readonly PhysicalStep[] {
  if (step.kind === 'hashJoin') return [step.input, step.partners];
  return 'input' in step ? [step.input] : [];
}
