import type { PlannedSource, Selectivity } from '../source.ts';
import type { AccessQuestion } from './path.ts';

/** What every way is weighed for: what is asked of which collection, and how many of its documents conditions keep. */
export interface PathRequest {
  readonly source: PlannedSource;
  readonly question: AccessQuestion;
  readonly selectivity: Selectivity;
}
