import { rowForRow } from './rewrites/limitUp.ts';
import type { PlannedStage } from './logical.ts';

/** How many rows the stages that follow take at most, as long as they take row for row. */
export function demandOf(following: readonly PlannedStage[], countOf: (stage: PlannedStage) => number): number | undefined {
  let skipped = 0;
  for (const planned of following) {
    if (planned.stage.kind === 'limit') return skipped + countOf(planned);
    if (planned.stage.kind === 'offset') skipped += countOf(planned);
    else if (!rowForRow.has(planned.stage.kind)) return undefined;
  }
  return undefined;
}
