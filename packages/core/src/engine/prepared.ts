import type { Run } from '../execution/run.ts';
import type { IndexDefinition } from '../indexes/definition.ts';
import type { Planned } from '../planner/planned.ts';
import type { Collection } from './collection.ts';
import type { Reading } from './reading.ts';
import type { ReadStage } from './readPipeline.ts';

/** A pipeline that has been read and checked. */
export interface Prepared {
  readonly stages: readonly ReadStage[];
  /** The collection that rows come from. */
  readonly collection: Collection;
  /** Where its stages and expressions stand. */
  readonly reading: Reading;
}

/** A plan, with the indexes that it was made against though they are not built. */
export interface MadePlan {
  readonly planned: Planned;
  readonly whatIf: readonly IndexDefinition[];
}

/** A run that has come to its end, with what it was made of. */
export interface Finished {
  readonly run: Run;
  readonly planned: Planned;
  readonly collection: Collection;
  readonly reading: Reading;
  readonly stages: Prepared['stages'];
}
