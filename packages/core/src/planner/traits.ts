import { traitsOf as traitsOfKind } from '../language/stages/registry.ts';
import { no, none, nothing, type Gives, type StageTraits } from '../language/stages/traits.ts';
import type { PlannableStage } from './logical.ts';

/** Of the place where a stage was: rows pass it. */
const ofMark: StageTraits<PlannableStage> = {
  gives: () => 'one',
  decidedBy: 'row',
  order: 'kept',
  looksAtOrder: no,
  keepsOnly: none,
  worksOnParts: true,
  writes: nothing,
  source: none,
  made: none,
};

/** The traits of a stage as the planner has them. */
export function traitsOf(stage: PlannableStage): StageTraits<PlannableStage> {
  return stage.kind === 'mark' ? ofMark : (traitsOfKind(stage.kind) as StageTraits<PlannableStage>);
}

function givesByItself(stage: PlannableStage): Gives | undefined {
  const { decidedBy, gives } = traitsOf(stage);
  return decidedBy === 'row' ? gives(stage) : undefined;
}

/** Whether a stage gives one row for each, in the same order, whatever the others are. */
export function isRowForRow(stage: PlannableStage): boolean {
  return givesByItself(stage) === 'one';
}

/** Whether a stage gives one row or more for each, those of one row together and in the same order. */
export function givesEachRow(stage: PlannableStage): boolean {
  return isRowForRow(stage) || givesByItself(stage) === 'one or more';
}

/** Whether several rows may come of one. */
export function isMultiplying(stage: PlannableStage): boolean {
  const gives = givesByItself(stage);
  return gives === 'one or more' || gives === 'any';
}

/** Whether rows pass in their order, one after another, and none has a say in what becomes of another. */
export function passesInOrder(stage: PlannableStage): boolean {
  return traitsOf(stage).order === 'kept' && givesByItself(stage) !== undefined;
}

/** Whether an order in which rows come is the order of what goes out, and nothing but that. */
export function carriesOrder(stage: PlannableStage): boolean {
  const { order, looksAtOrder } = traitsOf(stage);
  return order === 'kept' && !looksAtOrder(stage);
}

/** Whether it is the same whatever the order in which rows come, its own order too. */
export function replacesOrder(stage: PlannableStage): boolean {
  const { order, looksAtOrder } = traitsOf(stage);
  return order === 'made' && !looksAtOrder(stage);
}

/** Whether nothing goes on but what is named. */
export function namesAll(stage: PlannableStage): boolean {
  return traitsOf(stage).keepsOnly(stage) !== undefined;
}
