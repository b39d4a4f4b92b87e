import type { View } from '../../language/sources.ts';
import { asKept, imagined, type AsKept } from '../ifKept.ts';
import { followed } from './followed.ts';

const afresh = 'its rows are worked out afresh, in the background';

/**
 * Whether the rows of a pipeline, once kept, can follow each change of a document.
 * @param views those that are read through
 * @param collections what else can be read: collections, and views whose rows are kept
 * @returns `each change`, or why they are worked out afresh, with the line that keeps them from it
 */
export function followsOf(view: View, views: ReadonlyMap<string, View>, collections: readonly string[]): string {
  return followsText(asKept(imagined, view, views, collections));
}

export function followsText(kept: AsKept | undefined): string {
  if (kept === undefined) return `it cannot be read: ${afresh}`;
  const { stages, reading } = kept;
  const reason = followed(stages);
  if (typeof reason !== 'string') return 'each change';
  // The first line with which they do not.
  const hinders = stages.findIndex((_, at) => typeof followed(stages.slice(0, at + 1)) === 'string');
  const { line, view } = reading.placeOf(stages[Math.max(0, hinders)]!);
  // What another view says stands on lines of its own.
  if (view !== 'itself' || hinders < 1) return `${reason}: ${afresh}`;
  const before = line === 2 ? 'line 1 can' : `lines 1–${line - 1} can`;
  return `${before} follow each change, line ${line} cannot, since ${reason}: ${afresh}`;
}
