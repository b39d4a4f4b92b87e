import type { Finding } from './diagnostics/diagnostic.ts';
import type { Identified, Places } from './places.ts';
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
  /** Stages and what stands between them, in the order of the text. */
  readonly items: readonly (PlacedStage | Between)[];
  readonly findings: readonly Finding[];
}

export function isPlaced(item: PlacedStage | Between): item is PlacedStage {
  return 'line' in item;
}
