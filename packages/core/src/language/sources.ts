import { surfaceNamed, usualSurface, type SurfaceName } from './surfaces/registry.ts';
import { traitsOf } from './stages/registry.ts';
import type { Stage } from './stages/stage.ts';
import type { NodeId } from './places.ts';

/** A saved pipeline that others can read as a source. */
export interface View {
  readonly pipeline: string;
  readonly parameters?: Readonly<Record<string, unknown>> | null;
  /** The face in which it is written; the notation unless it is said. */
  readonly surface?: SurfaceName;
}
export type Views = ReadonlyMap<string, View>;

/** What a stage reads by name. */
function sourceOf(stage: Stage): { readonly name: string; readonly id: NodeId } | undefined {
  return traitsOf(stage.kind).source(stage);
}

/** The names that a pipeline reads directly: its source, and those that it joins. Stages that are off do not count. */
export function namedSources(text: string, surface?: SurfaceName): string[] {
  const { stages, sources = [] } = surfaceNamed(surface).parse(text);
  const own = new Set(sources.map(({ name }) => name));
  const names = [...stages, ...sources.flatMap((source) => source.stages)].flatMap(({ stage, off }) =>
    stage === undefined || off ? [] : (sourceOf(stage)?.name ?? []),
  );
  return [...new Set(names)].filter((name) => !own.has(name));
}

/** The collections that a pipeline reads in the end, through its views. */
export function collectionsRead(text: string, views: Views): string[] {
  const found = new Set<string>();
  const seen = new Set<string>();
  const visit = (pipeline: string, surface?: SurfaceName): void => {
    for (const name of namedSources(pipeline, surface)) {
      const view = views.get(name);
      if (view === undefined) found.add(name);
      else if (!seen.has(name)) {
        seen.add(name);
        visit(view.pipeline, view.surface);
      }
    }
  };
  visit(text);
  return [...found];
}

/** The views that a view reads, itself included where it comes back to itself. */
export function viewsRead(text: string, views: Views): Set<string> {
  const found = new Set<string>();
  const visit = (pipeline: string, surface?: SurfaceName): void => {
    for (const name of namedSources(pipeline, surface)) {
      const view = views.get(name);
      if (view === undefined || found.has(name)) continue;
      found.add(name);
      visit(view.pipeline, view.surface);
    }
  };
  visit(text);
  return found;
}

/** A pipeline's text with one of its sources called otherwise; all else stays as it was written. */
export function withSource(text: string, name: string, next: string): string {
  const { stages, sources = [], places } = usualSurface.parse(text);
  const all = [...sources.flatMap((source) => source.stages), ...stages];
  const spans = all.flatMap(({ stage }) => {
    const source = stage && sourceOf(stage);
    return source?.name === name ? [places.of(source)] : [];
  });
  return spans.reduceRight((written, { from, to }) => written.slice(0, from) + next + written.slice(to), text);
}
