import { withWheresJoined } from '../joinedWheres.ts';
import type { SourceLookup } from '../layers/layer.ts';
import { isStage, type PlannedStage } from '../logical.ts';

/**
 * Puts the stages of views where they are named: at the beginning in the place of the source, in a join beside it. A view is so
 * planned through to its collections, and never computed apart.
 */
export function viewsExpanded(stages: readonly PlannedStage[], lookup: SourceLookup): readonly PlannedStage[] {
  return stages.flatMap((planned): readonly PlannedStage[] => {
    const { stage, id } = planned;
    if (!('sourceId' in stage)) return [planned];
    const named = lookup(stage.source, { stage: id, source: stage.sourceId });
    if (named.kind === 'collection') return [planned];
    // Nobody asks how many rows came between the conditions of a view.
    const view = withWheresJoined(viewsExpanded(named.stages, lookup), 'first');
    return isStage(planned, 'from') ? view : [{ ...planned, partner: view }];
  });
}
