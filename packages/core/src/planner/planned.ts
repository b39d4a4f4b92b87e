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
}

/** Words are made when someone reads them: finding one document by its identity takes less time than telling of it. */
export class PlanToldWhenRead implements Planned {
  readonly physical: PhysicalPlan;
  readonly rewrites: readonly Rewrite[];
  private readonly make: { readonly [K in 'suggestions' | 'weighed']: () => Planned[K] };
  private readonly made: { suggestions?: readonly Suggestion[]; weighed?: readonly Weighed[] } = {};

  constructor(physical: PhysicalPlan, rewrites: readonly Rewrite[], make: PlanToldWhenRead['make']) {
    this.physical = physical;
    this.rewrites = rewrites;
    this.make = make;
  }
  get suggestions(): readonly Suggestion[] {
    return (this.made.suggestions ??= this.make.suggestions());
  }
  get weighed(): readonly Weighed[] {
    return (this.made.weighed ??= this.make.weighed());
  }
}
