import type { View } from '../../language/sources.ts';
import { expandedStages } from '../keptViews.ts';
import { followed } from './followed.ts';

/**
 * Whether the rows of a pipeline, once kept, can follow each change of a document.
 * @param views those that are read through
 * @param collections what else can be read: collections, and views whose rows are kept
 * @returns `each change`, or why they are worked out afresh
 */
export function followsOf(view: View, views: ReadonlyMap<string, View>, collections: readonly string[]): string {
  const stages = expandedStages(itself, view, views, collections);
  const parts = stages === undefined ? 'it cannot be read' : followed(stages);
  return typeof parts === 'string' ? `${parts}: its rows are worked out afresh, in the background` : 'each change';
}

/** No source has such a name. */
const itself = 'itself';
