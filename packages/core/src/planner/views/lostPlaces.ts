import type { PlannedStage } from '../logical.ts';
import { isMultiplying, traitsOf } from '../traits.ts';

/**
 * Ties go by the places of the documents that rows come from. Kept rows have places of their own, in the order in which they stand: that
 * is another where the view puts them in order, and several rows of one document, which tie with each other in the order in which they
 * come, have several places there.
 * @param view the stages whose rows are kept
 * @param rest what is done with them
 * @returns whether what is done would come out otherwise from the places that kept rows have
 */
export function goesByLostPlaces(view: readonly PlannedStage[], rest: readonly PlannedStage[]): boolean {
  let isReordered = false;
  let areSeveral = false;
  for (const { stage } of view) {
    const { gives, order } = traitsOf(stage);
    // Groups have the places that they are made in.
    const isNew = gives(stage) === 'new';
    isReordered = !isNew && (isReordered || order === 'made');
    areSeveral = !isNew && (areSeveral || isMultiplying(stage));
  }
  for (const { stage } of rest) {
    const { gives, decidedBy, looksAtOrder, order } = traitsOf(stage);
    if (gives(stage) === 'new') return false;
    // Decided by all rows and not by the order in which they come: by their places, where they tie.
    if (isReordered && decidedBy === 'rows' && !looksAtOrder(stage)) return true;
    isReordered ||= areSeveral && order === 'made';
  }
  return false;
}
