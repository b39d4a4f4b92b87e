import type { NodeId } from '../language/places.ts';
import type { Call, Expression, PathExpression } from '../language/tree.ts';
import type { Assignment, JoinKind, Measure, OrderKey, RankKind, SelectItem } from '../language/stages/stage.ts';
import type { Common, FullScan, IndexScan, IndexSetScan, PositionsScan, FusedScan, IndexAggregate, ScoredScan } from './scans.ts';

export type {
  FullScan,
  OrderedWalk,
  WalkedEmpties,
  IndexScan,
  Covering,
  IndexSetScan,
  IndexPart,
  PositionsScan,
  AnsweredAggregate,
  IndexAggregate,
  FusedScan,
  ScoredScan,
} from './scans.ts';

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

/** One ranking of rows, and how much its places count where several are fused. */
export interface Ranking {
  readonly expression: Expression;
  readonly weight: number;
  /** The index that gives the score of the document at a row's position. */
  readonly index: string | undefined;
}
/** Holds the rows that score highest, best first. */
export interface Best extends Common {
  readonly kind: 'best';
  readonly count: number;
  readonly rankings: readonly [Ranking, ...Ranking[]];
  readonly target: readonly string[] | undefined;
  /** How many places of each ranking count, where there are several. */
  readonly depth: number;
  readonly collection: string;
  readonly input: PhysicalStep;
}
/** Counts how often words stand in a whole collection, before a row is scored by them. */
export interface CountWords extends Common {
  readonly kind: 'countWords';
  readonly collection: string;
  /** What words are asked for, and the index that knows them without reading a document. */
  readonly calls: readonly { readonly call: Call; readonly index: string | undefined }[];
  /** Documents of the collection, each of which is read where some call has no index. */
  readonly documents: number;
  readonly input: PhysicalStep;
}

/** A step of a physical plan; each has an operator of its own. */
export type PhysicalStep =
  | FullScan
  | IndexScan
  | IndexSetScan
  | PositionsScan
  | IndexAggregate
  | ScoredScan
  | FusedScan
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
  | Rank
  | Best
  | CountWords;
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

/** The collections that a plan reads, each as often as it does. */
export function collectionsOf(step: PhysicalStep): string[] {
  return [...('collection' in step ? [step.collection] : []), ...inputsOf(step).flatMap(collectionsOf)];
}
