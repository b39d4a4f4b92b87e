import type { ImaginedView } from './ifKept.ts';
import type { ReadView } from './keptViews.ts';
import type { Guards } from '../execution/guards.ts';
import type { Costs } from '../execution/meter.ts';
import type { Diagnostic, Mend } from '../language/diagnostics/diagnostic.ts';
import type { SurfaceName } from '../language/surfaces/registry.ts';
import type { NodeId } from '../language/places.ts';
import type { IndexRequest } from '../indexes/definition.ts';
import type { WayKind } from '../planner/insisting.ts';
import type { Rewrite, RuleName } from '../planner/logical.ts';
import type { Suggestion } from '../planner/advice/advice.ts';
import type { PlanNode } from './describePlan.ts';
import type { Weighed } from '../planner/explain/reasons.ts';
import type { Json } from '../values/json.ts';

export interface PlanRequest {
  readonly pipeline: string;
  /** The face in which it is asked; the notation unless it is said. */
  readonly surface?: SurfaceName;
  readonly parameters?: Readonly<Record<string, Json>>;
  /** Only the stages up to this 1-based line. */
  readonly throughLine?: number;
  /** Only the stages up to this one. */
  readonly throughStage?: NodeId;
  /** Identities of the only documents that are looked at, as if there were no others. */
  readonly only?: readonly (string | number)[];
  /** Indexes that are insisted on: all of them together if they can be, else one of them, as far as they serve at all. */
  readonly useIndex?: string | readonly string[];
  /** Kinds of ways that are insisted on, whatever they cost; refused where there is none. */
  readonly ways?: WayKind | readonly WayKind[];
  /** Materialized views that are not to answer unasked. */
  readonly ignoreViews?: readonly string[] | undefined;
  readonly ignoreIndexes?: readonly string[];
  /** Rewrites that are not to be made; for comparing with and without. */
  readonly withoutRules?: readonly RuleName[];
  readonly whatIf?: readonly (IndexRequest & { readonly collection?: string })[];
  /** Rows that are planned with as if they were kept. */
  readonly ifKept?: ImaginedView;
}

export interface QueryRequest extends Omit<PlanRequest, 'whatIf' | 'ifKept'> {
  readonly guards?: Partial<Guards>;
  /** Rows of the first page. */
  readonly pageSize?: number;
  /** A bounded run: ends without an error after so many documents, and says so. */
  readonly readAtMost?: number;
  /** … or reads no more after so many milliseconds of work. */
  readonly workAtMostMs?: number;
  /** How many rows go from one step to the next at a time; for tests. */
  readonly batchRows?: number;
  /** False makes a loop of each step of the plan, instead of one of all that follow one another; the answer is the same. */
  readonly fused?: boolean;
}

/** What a stage did: rows are those that came out of it; those of `from` are what entered the pipeline. */
export interface LineResult {
  readonly line: number;
  readonly rowsOut: number;
  readonly timeMs: number;
  /** Whether its time was taken together with that of other lines and shared out by their work. */
  readonly timeIsEstimated?: true;
  readonly stoppedEarly: boolean;
}

/** Something that the run noticed: values that an expression could not use. */
export interface Note {
  readonly code: 'unusable-values' | 'no-words' | 'exact-anyway';
  readonly line: number;
  readonly from: number;
  readonly to: number;
  readonly message: string;
  readonly count: number;
  readonly mend?: Mend;
}

/** Something told of stages, with the lines of the asked text that they stand on. */
export type Placed<T extends { readonly stages: readonly NodeId[] }> = Omit<T, 'stages'> & { readonly lines: readonly number[] };
type WithReason<T> = Omit<T, 'reason'> & { readonly reason: string };
/** A way that was weighed, a suggestion and a rewrite, in the words of the face that asked. */
export type ToldWeighed = WithReason<Placed<Weighed>>;
export type ToldSuggestion = WithReason<Placed<Suggestion>>;
export type ToldRewrite = Omit<Placed<Rewrite>, 'detail'> & { readonly detail: string };

export interface Explained {
  readonly plan: PlanNode;
  readonly weighed: readonly ToldWeighed[];
  readonly suggestions: readonly ToldSuggestion[];
  /** What was done to the pipeline to give the same for less. */
  readonly rewrites: readonly ToldRewrite[];
}

export interface QueryResult extends Explained {
  readonly runId: string;
  readonly documents: readonly Json[];
  readonly rowsReturned: number;
  readonly hasMore: boolean;
  readonly cost: Costs;
  readonly lines: readonly LineResult[];
  readonly notes: readonly Note[];
  /** Whether a bounded run ended before it had read everything. */
  readonly bounded: boolean;
  /** Where the answer may leave out some of the true best; null where it is exact. */
  readonly approximate: Approximation | null;
  /** The materialized views that were read, unasked or by name. */
  readonly sources: readonly ReadView[];
}

/** A page of the rows of a run that is kept. */
export interface RowsPage {
  readonly documents: readonly Json[];
  readonly hasMore: boolean;
  readonly rowsReturned: number;
  readonly approximate: Approximation | null;
}

/** How far an answer that is not exact can be relied on. */
export interface Approximation {
  /** How many candidates were looked at. */
  readonly effort: number;
  /** The share of the true best that so much effort found when it was measured, 0 to 1, and when that was. */
  readonly recall?: number;
  readonly measuredAt?: string;
}

export interface ChangeRequest {
  readonly change: string;
  readonly parameters?: Readonly<Record<string, Json>>;
  readonly guards?: Partial<Guards>;
}

/** What a change would do. `changed` documents would be other than they are; `repeats` of them again, if it were made again. */
export interface ChangePreview extends Explained {
  readonly matched: number;
  readonly changed: number;
  readonly repeats: number;
  readonly sample: readonly { readonly identity: string; readonly before: Json; readonly after: Json | null }[];
  readonly hasMore: boolean;
  /** What keeping it for its undo takes, about. */
  readonly bytes: number;
  readonly warnings: readonly Diagnostic[];
  readonly notes: readonly Note[];
  readonly lines: readonly LineResult[];
  readonly cost: Costs;
}

/** Why a request has no answer, as a value. */
export type EngineProblem =
  | { readonly kind: 'pipeline'; readonly message: string; readonly diagnostics: readonly Diagnostic[] }
  | {
      readonly kind: 'guard-time' | 'guard-documents-read' | 'guard-memory';
      readonly message: string;
      readonly line: number;
      readonly reached: number;
      readonly limit: number;
      readonly suggestions: readonly ToldSuggestion[];
      /** What had been spent until then, and the plan with what each step had done. */
      readonly cost: Costs;
      readonly explained: Explained;
    }
  | { readonly kind: 'not-found'; readonly message: string }
  | { readonly kind: 'way'; readonly message: string }
  | { readonly kind: 'cancelled'; readonly message: string }
  | { readonly kind: 'gone'; readonly message: string }
  | { readonly kind: 'document'; readonly message: string };

export type Answer<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: EngineProblem };

export const answered = <T>(value: T): Answer<T> => ({ ok: true, value });
export const refused = (problem: EngineProblem): { ok: false; problem: EngineProblem } => ({ ok: false, problem });

/** How long a run works before others get their turn. */
export const sliceMs = 3;
export const defaultPageSize = 40;
