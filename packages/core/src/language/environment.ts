import type { FieldTree } from '../shape/fieldTree.ts';
import type { Purpose } from './stages/purpose.ts';
import type { Words } from './words.ts';

/** What is known outside the text. */
export interface Environment {
  /** How the face that it is written in calls its parts; the notation's words unless they are given. */
  readonly words?: Words;
  /** What the text is to be used for; a pipeline unless it is said. */
  readonly purpose?: Purpose;
  /** The identity of a collection, as field names. */
  readonly identityOf?: (source: string) => readonly string[] | undefined;
  /** The names that may follow `from`; undefined where they are not known, and then none is called unknown. */
  readonly collections?: readonly string[];
  readonly shapeOf?: (source: string) => FieldTree | undefined;
  readonly documentsOf?: (source: string) => number | undefined;
}
