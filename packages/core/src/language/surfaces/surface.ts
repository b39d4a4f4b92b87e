import type { Environment } from '../environment.ts';
import type { Completions } from '../completions.ts';
import type { Pipeline } from '../pipeline.ts';
import type { NodeId } from '../places.ts';
import type { Stage } from '../stages/stage.ts';
import type { Words } from '../words.ts';

/**
 * A face of the language: a text that is read as the one tree, and the tree written as such a text. Everything that is done with
 * a pipeline is done with the tree, so that no other part knows in which face it was asked.
 */
export interface Surface {
  readonly name: string;
  /**
   * Reads a text. Never throws: what cannot be read becomes a finding, and the rest is read all the same.
   * @param firstId the number of its first node, where it is read beside other texts
   */
  readonly parse: (text: string, firstId?: number) => Pipeline;
  /** Writes stages as a text that reads back as the same. */
  readonly print: (stages: readonly Stage[]) => string;
  /** The canonical layout of a text that was read, its comments kept. What could not be read stays as it was. */
  readonly format: (pipeline: Pipeline) => string;
  /** What may be written at an offset of a text, half-typed as it may be; offsets are in UTF-16. */
  readonly complete: (text: string, offset: number, environment?: Environment) => Completions | undefined;
  readonly words: Words;
  /** The 1-based line of the text on which a node stands; several stages may stand on one. */
  readonly lineOf: (pipeline: Pick<Pipeline, 'text' | 'places'>, id: NodeId) => number;
}
