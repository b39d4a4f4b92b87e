import type { Finding } from './diagnostics/diagnostic.ts';
import type { Identified, NodeId, Places } from './places.ts';
import type { Span } from './span.ts';
import type { Stage } from './stages/stage.ts';

/** A stage where it stands in the text. `stage` is undefined where it could not be read. */
export interface PlacedStage extends Identified, Span {
  readonly stage: Stage | undefined;
  readonly off: boolean;
  /** The 1-based line on which it begins. */
  readonly line: number;
  /** Where its own words begin: after `off`, if that stands there. */
  readonly wordFrom: number;
  /** Comments on its lines, each with whether it follows the stage's last token. */
  readonly comments: readonly { readonly text: string; readonly trailing: boolean }[];
}

/** A source that is written beside the pipeline, and read by its name alone: `with late` and its stages, indented. */
export interface NamedSource extends Identified, Span {
  readonly name: string;
  readonly nameId: NodeId;
  readonly stages: readonly PlacedStage[];
}

/** A comment on a line of its own, or an empty line, between two stages. */
export interface Between {
  readonly text: string;
}

/** A text read as a pipeline: always a tree, with the syntax errors beside it. */
export interface Pipeline {
  readonly text: string;
  /** Where its nodes stand. */
  readonly places: Places;
  readonly stages: readonly PlacedStage[];
  /** Sources that it brings itself; each may read those before it. */
  readonly sources?: readonly NamedSource[];
  /** Stages, sources and what stands between them, in the order of the text. */
  readonly items: readonly (PlacedStage | NamedSource | Between)[];
  readonly findings: readonly Finding[];
}

export function isPlaced(item: Pipeline['items'][number]): item is PlacedStage {
  return 'line' in item;
}
export function isNamedSource(item: Pipeline['items'][number]): item is NamedSource {
  return 'stages' in item;
}
