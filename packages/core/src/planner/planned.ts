import type { Json } from '../values/json.ts';
import type { Suggestion } from './advice/advice.ts';
import type { Weighed } from './explain/reasons.ts';
import type { Rewrite } from './logical.ts';
import type { PhysicalPlan } from './physical.ts';

/** A plan, with what is told of how it came to be. */
export interface Planned {
  readonly physical: PhysicalPlan;
  readonly weighed: readonly Weighed[];
  readonly suggestions: readonly Suggestion[];
  readonly rewrites: readonly Rewrite[];
  /** The values that it is told with, where it serves every value of a parameter. */
  readonly parameters?: Readonly<Record<string, Json>> | undefined;
}

/** Words are made when someone reads them: finding one document by its identity takes less time than telling of it. */
export class PlanToldWhenRead implements Planned {
  readonly physical: PhysicalPlan;
  readonly rewrites: readonly Rewrite[];
  readonly parameters: Planned['parameters'];
  private readonly make: { readonly [K in 'suggestions' | 'weighed']: () => Planned[K] };
  private readonly made: { suggestions?: readonly Suggestion[]; weighed?: readonly Weighed[] } = {};

  constructor(physical: PhysicalPlan, rewrites: readonly Rewrite[], make: PlanToldWhenRead['make'], parameters?: Planned['parameters']) {
    this.physical = physical;
    this.rewrites = rewrites;
    this.make = make;
    this.parameters = parameters;
  }
  get suggestions(): readonly Suggestion[] {
    return (this.made.suggestions ??= this.make.suggestions());
  }
  get weighed(): readonly Weighed[] {
    return (this.made.weighed ??= this.make.weighed());
  }
}
