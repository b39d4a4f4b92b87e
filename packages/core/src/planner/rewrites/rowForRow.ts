import { isStage, type PlannableStage, type PlannedStage } from '../logical.ts';

const rowForRow: ReadonlySet<PlannableStage['kind']> = new Set(['select', 'omit', 'compute', 'gatherJoin', 'mark']);

/** Whether a stage gives one row for each, in the same order. */
export function isRowForRow({ stage }: PlannedStage): boolean {
  return rowForRow.has(stage.kind);
}

/** Whether a stage gives one row or more for each, those of one row together and in the same order. */
export function givesEachRow(planned: PlannedStage): boolean {
  return isRowForRow(planned) || planned.stage.kind === 'leftJoin' || (isStage(planned, 'unnest') && planned.stage.keepEmpty);
}
