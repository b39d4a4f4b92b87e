import type { AggregateName } from '../functions/aggregates.ts';
import type { Identified, NodeId } from '../places.ts';
import type { Direction, NullsPlace } from '../../values/order.ts';
import type { Expression, PathExpression } from '../tree.ts';

/** A name given in a stage, which may nest: `x.y`. */
export interface GivenName extends Identified {
  readonly names: readonly string[];
}

export interface FromStage {
  readonly kind: 'from';
  readonly source: string;
  readonly sourceId: NodeId;
}
export interface WhereStage {
  readonly kind: 'where';
  readonly condition: Expression;
}
export interface SelectItem extends Identified {
  readonly expression: Expression;
  /** Where the value is put. A path without `as` stays where it was. */
  readonly target: readonly string[];
  readonly named: boolean;
}
export interface SelectStage {
  readonly kind: 'select';
  readonly items: readonly SelectItem[];
}
export interface OmitStage {
  readonly kind: 'omit';
  readonly paths: readonly PathExpression[];
}
export interface Assignment extends Identified {
  readonly target: readonly string[];
  readonly expression: Expression;
}
export interface ComputeStage {
  readonly kind: 'compute';
  readonly assignments: readonly Assignment[];
}
export interface SampleStage {
  readonly kind: 'sample';
  readonly count: Expression;
  readonly seed: Expression | undefined;
}
export interface OrderKey extends Identified {
  readonly expression: Expression;
  readonly direction: Direction;
  readonly nulls: NullsPlace;
}
export interface OrderStage {
  readonly kind: 'order';
  readonly keys: readonly OrderKey[];
}
export interface OffsetStage {
  readonly kind: 'offset';
  readonly count: Expression;
}
export interface LimitStage {
  readonly kind: 'limit';
  readonly count: Expression;
}

export interface UnnestStage {
  readonly kind: 'unnest';
  readonly path: PathExpression;
  readonly target: GivenName;
  readonly position: GivenName | undefined;
  readonly keepEmpty: boolean;
}
export type JoinKind = 'join' | 'leftJoin' | 'gatherJoin';
export interface JoinStage<K extends JoinKind = JoinKind> {
  readonly kind: K;
  readonly source: string;
  readonly sourceId: NodeId;
  readonly target: GivenName;
  readonly condition: Expression;
}
/** A measure of a group. `percentage` is that of `percentile`. */
export interface Measure extends Identified {
  readonly target: readonly string[];
  readonly aggregate: AggregateName;
  readonly argument: Expression | undefined;
  readonly percentage: Expression | undefined;
  readonly where: Expression | undefined;
  /** Of a group over one that is kept: the place among its measures of the one that is put together. It is never written. */
  readonly kept?: number;
}
export interface GroupStage {
  readonly kind: 'group';
  readonly keys: readonly SelectItem[];
  readonly measures: readonly Measure[];
}
export interface GroupAllStage {
  readonly kind: 'groupAll';
  readonly measures: readonly Measure[];
}
/** One ranking: what rows score, and how much its places count beside those of others. */
export interface Score extends Identified {
  readonly expression: Expression;
  readonly weight: Expression | undefined;
}
export interface BestStage {
  readonly kind: 'best';
  readonly count: Expression;
  readonly scores: readonly Score[];
  /** Where the score is put. */
  readonly target: GivenName | undefined;
  /** How many places of each ranking count, where several are fused. */
  readonly depth: Expression | undefined;
  /** How many candidates are looked at; undefined where the best are exact. */
  readonly effort: Expression | undefined;
}
export type RankKind = 'rank' | 'denseRank' | 'rowNumber';
export interface RankStage<K extends RankKind = RankKind> {
  readonly kind: K;
  readonly target: GivenName;
  readonly partition: readonly Expression[];
  readonly keys: readonly OrderKey[];
}

/** What a change does with each document that it keeps. Targets are names, positions and, for several, wildcards. */
export interface SetItem extends Identified {
  readonly target: PathExpression;
  readonly expression: Expression;
}
export interface SetStep {
  readonly kind: 'set';
  readonly items: readonly SetItem[];
}
export interface RemoveStep {
  readonly kind: 'remove';
  readonly paths: readonly PathExpression[];
}
export interface AppendStep {
  readonly kind: 'append';
  readonly expression: Expression;
  readonly target: PathExpression;
}
export interface TakeStep {
  readonly kind: 'take';
  readonly expression: Expression;
  readonly target: PathExpression;
}
export interface ReplaceStep {
  readonly kind: 'replace';
  readonly expression: Expression;
}
export interface DeleteStep {
  readonly kind: 'delete';
}

/** A stage of a pipeline: rows in, rows out. */
export type PipelineStage =
  | FromStage
  | WhereStage
  | SelectStage
  | OmitStage
  | ComputeStage
  | BestStage
  | OrderStage
  | OffsetStage
  | LimitStage
  | SampleStage
  | UnnestStage
  | JoinStage<'join'>
  | JoinStage<'leftJoin'>
  | JoinStage<'gatherJoin'>
  | GroupStage
  | GroupAllStage
  | RankStage<'rank'>
  | RankStage<'denseRank'>
  | RankStage<'rowNumber'>;
/** A step of a change: what happens to a document. */
export type ChangeStep = SetStep | RemoveStep | AppendStep | TakeStep | ReplaceStep | DeleteStep;
export type Stage = PipelineStage | ChangeStep;

const changeKinds: Readonly<Record<ChangeStep['kind'], true>> = {
  set: true,
  remove: true,
  append: true,
  take: true,
  replace: true,
  delete: true,
};

export function isChangeKind(kind: StageKind): kind is ChangeStep['kind'] {
  return Object.hasOwn(changeKinds, kind);
}
export function isChangeStep(stage: Stage): stage is ChangeStep {
  return isChangeKind(stage.kind);
}
export type StageKind = Stage['kind'];

export function isJoin(stage: Stage): stage is JoinStage<'join'> | JoinStage<'leftJoin'> | JoinStage<'gatherJoin'> {
  return stage.kind === 'join' || stage.kind === 'leftJoin' || stage.kind === 'gatherJoin';
}
export function isRank(stage: Stage): stage is RankStage<'rank'> | RankStage<'denseRank'> | RankStage<'rowNumber'> {
  return stage.kind === 'rank' || stage.kind === 'denseRank' || stage.kind === 'rowNumber';
}
