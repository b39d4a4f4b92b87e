import type { IndexDefinition } from '../indexes/definition.ts';
import type { NodeId } from '../language/places.ts';
import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import type { WayKind } from './insisting.ts';
import type { RuleName } from './logical.ts';

export interface PlanOptions {
  readonly parameters: Readonly<Record<string, Json>>;
  /** RFC 3339 in UTC: what `now()` gives. */
  readonly now: string;
  /** Planned against though they are not built; such a plan cannot be run. */
  readonly whatIf?: readonly IndexDefinition[];
  readonly ignoreIndexes?: readonly string[];
  readonly useIndex?: readonly string[];
  /** Kinds of ways that are insisted on. */
  readonly ways?: readonly WayKind[];
  /** The only documents that are looked at, as if the collection had no others. */
  readonly only?: Expression;
  /** Rewrites that are not to be made; for comparing with and without. */
  readonly withoutRules?: readonly RuleName[];
}

/** A value of the pipeline that only shows at planning is not one that its stage can take. */
export class PlanProblem extends Error {
  readonly id: NodeId;
  readonly expression: Expression;
  constructor(message: string, id: NodeId, expression: Expression) {
    super(message);
    this.id = id;
    this.expression = expression;
  }
}
