import { LRUCache } from 'lru-cache';
import { translateSql, type SqlTranslation } from './translate.ts';
import type { Known } from './translate/work.ts';

const keptTexts = 256;
/** Letters of the texts that are kept together; a longer one is translated each time. */
const keptLetters = 1_000_000;

/** Something that a translation asked of what is known, and whether it would be told the same now. */
type Asked = (now: Known) => boolean;

interface Kept {
  readonly asked: readonly Asked[];
  readonly translation: SqlTranslation;
}

/**
 * Translations of texts that were asked before. One holds as long as all that it was told on the way is told again: the names that there
 * are, the shapes and the identities of what it reads.
 */
export class KeptTranslations {
  private readonly kept = new LRUCache<string, Kept>({
    max: keptTexts,
    maxSize: keptLetters,
    sizeCalculation: (_, text) => text.length + 1,
  });

  /** As {@link translateSql}. */
  translate(text: string, known: Known): SqlTranslation {
    const before = this.kept.get(text);
    if (before?.asked.every((holds) => holds(known))) return before.translation;
    const { watched, asked } = watching(known);
    const translation = translateSql(text, watched);
    this.kept.set(text, { asked: [...asked.values()], translation });
    return translation;
  }
}

/** What is known, and what will have been asked of it. */
function watching(known: Known): { readonly watched: Known; readonly asked: ReadonlyMap<string, Asked> } {
  const asked = new Map<string, Asked>();
  const { collections, shapeOf, identityOf } = known;
  // A name that is missing is told by what there is; which it is rests on all of them.
  asked.set('names', (now) => sameNames(now.collections, collections));
  const watched: Known = {
    ...(collections && { collections }),
    ...(shapeOf && {
      shapeOf: (source) => {
        const shape = shapeOf(source);
        asked.set(`shape ${source}`, (now) => now.shapeOf?.(source) === shape);
        return shape;
      },
    }),
    ...(identityOf && {
      identityOf: (source) => {
        const names = identityOf(source);
        asked.set(`identity ${source}`, (now) => sameNames(now.identityOf?.(source), names));
        return names;
      },
    }),
  };
  return { watched, asked };
}

function sameNames(some: readonly string[] | undefined, others: readonly string[] | undefined): boolean {
  if (some === others) return true;
  return some?.length === others?.length && some !== undefined && some.every((name, i) => name === others?.[i]);
}
