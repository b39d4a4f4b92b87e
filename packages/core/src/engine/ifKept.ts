import type { View } from '../language/sources.ts';
import type { PlannedStage } from '../planner/logical.ts';
import type { KeptView } from '../planner/views/keptView.ts';
import { viewsExpanded } from '../planner/rewrites/viewsExpanded.ts';
import type { Collection } from './collection.ts';
import type { Reading } from './reading.ts';
import { readPipeline } from './readPipeline.ts';

/** A pipeline as its rows would be made, with the views that it reads through in their places and the values that were saved with them. */
export interface AsKept {
  readonly stages: readonly PlannedStage[];
  readonly reading: Reading;
}

/** Rows that were worked out, and that nobody but who asks reads. */
export interface ImaginedView {
  readonly stages: readonly PlannedStage[];
  readonly rows: Collection;
}

/** No source has such a name. */
export const imagined = 'these lines';

/** Reads a view as if another named it, so that its parameters have the values that were saved with it; undefined where it cannot be read. */
export function asKept(name: string, view: View, views: ReadonlyMap<string, View>, collections: readonly string[]): AsKept | undefined {
  const known = new Map([...views, [named(name), view]]);
  const { stages, reading } = readPipeline(`from ${named(name)}`, collections, known);
  const [from] = stages;
  if (from?.stage.kind !== 'from') return undefined;
  try {
    const expanded = viewsExpanded(stages, (source, at) => {
      const inner = reading.stagesOf(source, at);
      return inner === undefined ? { kind: 'collection', source: undefined as never } : { kind: 'view', stages: inner };
    });
    return { stages: expanded, reading };
  } catch {
    return undefined;
  }
}

/** The stages alone. */
export function expandedStages(...asked: Parameters<typeof asKept>): readonly PlannedStage[] | undefined {
  return asKept(...asked)?.stages;
}

/** One that is only imagined is read under a name that can be written. */
const named = (name: string): string => (name === imagined ? 'itself' : name);

/** As the planner weighs it. */
export function viewOf({ stages, rows }: ImaginedView): KeptView {
  return { name: rows.name, rows: rows.store.count, stages, keepsSums: rows.keepsSums, unusable: undefined };
}
