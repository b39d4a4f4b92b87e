import type { IndexRange } from '../indexes/orderedIndex.ts';
import type { Expression, PathExpression } from '../language/tree.ts';
import type { Assignment, OrderKey, SelectItem } from '../language/stages/stage.ts';

interface Common {
  /** The 1-based lines of text that the step works for. */
  readonly lines: readonly number[];
  readonly estimatedRows: number;
}

/** Reads every document of a collection, testing a condition on the way. */
export interface FullScan extends Common {
  readonly kind: 'fullScan';
  readonly collection: string;
  readonly condition: Expression | undefined;
  /** So many rows are all that later steps take, where that is known. */
  readonly demand: number | undefined;
}

/** How an index is walked where its order is wanted. */
export interface OrderedWalk {
  readonly keyCount: number;
  readonly backwards: boolean;
  /** Where entries with null, and documents without an entry, go; undefined where the ranges have none. */
  readonly empties: 'first' | 'last' | undefined;
  /** Where each key of the order wants null and missing. */
  readonly nulls: readonly ('first' | 'last')[];
}

/** Reads the documents that ranges of an index name. */
export interface IndexScan extends Common {
  readonly kind: 'indexScan';
  readonly collection: string;
  readonly index: string;
  readonly ranges: readonly IndexRange[];
  /** Whether each range is one point of all keys. */
  readonly lookup: boolean;
  /** In the order of the index; else in insertion order. */
  readonly ordered: OrderedWalk | undefined;
  readonly condition: Expression | undefined;
  readonly demand: number | undefined;
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

/** A step of a physical plan; each has an operator of its own. */
export type PhysicalStep = FullScan | IndexScan | Filter | Project | Omit | Compute | Sort | TopNSort | Offset | Limit | TakeSample;
export type StepKind = PhysicalStep['kind'];

/** The rows of a stage come out of this step: what it read, took in, or gave out. */
export interface LineSource {
  readonly line: number;
  readonly step: PhysicalStep;
  readonly counts: 'read' | 'in' | 'out';
}

export interface PhysicalPlan {
  readonly root: PhysicalStep;
  readonly lines: readonly LineSource[];
}

export function inputsOf(step: PhysicalStep): readonly PhysicalStep[] {
  return 'input' in step ? [step.input] : [];
}
