import type { Expression } from '../../language/tree.ts';
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
    const view = withWheresJoined(viewsExpanded(named.stages, lookup));
    return isStage(planned, 'from') ? view : [{ ...planned, partner: view }];
  });
}

/** Conditions of a view that follow one another are one: nobody asks how many rows came between them. */
function withWheresJoined(stages: readonly PlannedStage[]): readonly PlannedStage[] {
  const joined: PlannedStage[] = [];
  for (const one of stages) {
    const before = joined[joined.length - 1];
    if (isStage(one, 'where') && isStage(before, 'where')) {
      const both = [before.stage.condition, one.stage.condition];
      const operands = both.flatMap((condition) => (condition.kind === 'and' ? condition.operands : [condition]));
      const condition: Expression = { kind: 'and', operands, id: both[0]!.id };
      joined[joined.length - 1] = { ...before, stage: { kind: 'where', condition } };
    } else joined.push(one);
  }
  return joined;
}
