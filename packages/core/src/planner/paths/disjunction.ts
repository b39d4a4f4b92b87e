import type { Conjunct } from '../conjuncts.ts';
import type { KeyCondition } from './keyConditions.ts';

/** A condition of alternatives joined by `||`, taken apart. */
export interface Disjunction {
  readonly conjunct: Conjunct;
  readonly options: readonly Option[];
}

export interface Option {
  readonly own: readonly Conjunct[];
  readonly conditions: readonly KeyCondition[];
}
