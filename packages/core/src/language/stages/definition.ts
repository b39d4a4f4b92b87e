import type { FieldTree } from '../../shape/fieldTree.ts';
import type { Scope } from '../checkExpression.ts';
import type { Span } from '../span.ts';
import type { Reader } from '../surfaces/notation/reader.ts';
import type { Expression } from '../tree.ts';
import type { StageTraits } from './traits.ts';

/** What a stage's checks may look at. */
export interface StageScope extends Scope {
  readonly collections: readonly string[] | undefined;
  readonly shapeOf: (source: string) => FieldTree | undefined;
  readonly span: Span;
}

/** Everything the language knows of one kind of stage. One file each, and one line in the registry. */
export interface StageDefinition<S> {
  /** The words with which it begins. */
  readonly words: readonly string[];
  readonly doc: string;
  readonly example: string;
  readonly parse: (reader: Reader) => S;
  readonly print: (stage: S) => string;
  /** The expressions that stand directly in it. */
  readonly expressions: (stage: S) => readonly Expression[];
  readonly check: (stage: S, scope: StageScope) => void;
  readonly traits: StageTraits<S>;
  /** What rows look like after it, given what they look like before. */
  readonly effect: (stage: S, before: FieldTree, scope: Pick<StageScope, 'shapeOf'>) => FieldTree;
}
