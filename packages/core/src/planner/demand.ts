import type { PlannedStage } from './logical.ts';
import { givesEachRow } from './traits.ts';

/** How many rows the stages that follow take at most, as long as each gives a row or more that counts. */
export function demandOf(following: readonly PlannedStage[], countOf: (stage: PlannedStage) => number): number | undefined {
  let skipped = 0;
  for (const planned of following) {
    if (planned.stage.kind === 'limit') return skipped + countOf(planned);
    if (planned.stage.kind === 'offset') skipped += countOf(planned);
    else if (!givesEachRow(planned.stage)) return undefined;
  }
  return undefined;
}
