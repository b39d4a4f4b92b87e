import { parsePipeline } from './parsePipeline.ts';
import { isJoin } from './stages/stage.ts';

/** A saved pipeline that others can read as a source. */
export interface View {
  readonly pipeline: string;
  readonly parameters?: Readonly<Record<string, unknown>> | null;
}
export type Views = ReadonlyMap<string, View>;

/** The names that a pipeline reads directly: its source, and those that it joins. Stages that are off do not count. */
export function namedSources(text: string): string[] {
  const names = parsePipeline(text).stages.flatMap(({ stage, off }) =>
    stage === undefined || off ? [] : stage.kind === 'from' || isJoin(stage) ? [stage.source] : [],
  );
  return [...new Set(names)];
}

/** The collections that a pipeline reads in the end, through its views. */
export function collectionsRead(text: string, views: Views): string[] {
  const found = new Set<string>();
  const seen = new Set<string>();
  const visit = (pipeline: string): void => {
    for (const name of namedSources(pipeline)) {
      const view = views.get(name);
      if (view === undefined) found.add(name);
      else if (!seen.has(name)) {
        seen.add(name);
        visit(view.pipeline);
      }
    }
  };
  visit(text);
  return [...found];
}

/** The views that a view reads, itself included where it comes back to itself. */
export function viewsRead(text: string, views: Views): Set<string> {
  const found = new Set<string>();
  const visit = (pipeline: string): void => {
    for (const name of namedSources(pipeline)) {
      const view = views.get(name);
      if (view === undefined || found.has(name)) continue;
      found.add(name);
      visit(view.pipeline);
    }
  };
  visit(text);
  return found;
}

/** A pipeline's text with one of its sources called otherwise; all else stays as it was written. */
export function withSource(text: string, name: string, next: string): string {
  const spans = parsePipeline(text).stages.flatMap(({ stage }) =>
    stage !== undefined && (stage.kind === 'from' || isJoin(stage)) && stage.source === name ? [stage.sourceSpan] : [],
  );
  return spans.reduceRight((written, { from, to }) => written.slice(0, from) + next + written.slice(to), text);
}
