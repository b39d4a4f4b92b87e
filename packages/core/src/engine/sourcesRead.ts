import { collectionsRead, type Views } from '../language/sources.ts';
import type { PlannedStage } from '../planner/plan.ts';
import type { Reading } from './reading.ts';

/** The collections that stages read in the end, looked for once: for as long as views and collections stay as they are. */
export class SourcesRead {
  private readonly views: Views;
  private readonly known = new WeakMap<readonly PlannedStage[], readonly string[]>();

  constructor(views: Views) {
    this.views = views;
  }

  of(stages: readonly PlannedStage[], reading: Reading): readonly string[] {
    let sources = this.known.get(stages);
    if (sources === undefined) this.known.set(stages, (sources = this.sourcesOf(stages, reading)));
    return sources;
  }

  private sourcesOf(stages: readonly PlannedStage[], { asked: { sources = [] } }: Reading): string[] {
    const names = new Set<string>();
    const beside = sources.flatMap((source) => source.stages).flatMap(({ stage }) => (stage === undefined ? [] : [{ stage }]));
    const own = new Set(sources.map(({ name }) => name));
    for (const { stage } of [...beside, ...stages]) {
      if (!('source' in stage) || own.has(stage.source)) continue;
      const view = this.views.get(stage.source);
      if (view === undefined) names.add(stage.source);
      else for (const name of collectionsRead(view.pipeline, this.views)) names.add(name);
    }
    return [...names];
  }
}
