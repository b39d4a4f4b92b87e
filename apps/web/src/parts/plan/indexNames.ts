import type { IndexSuggestion } from '@zesty-sieve/contract';

/** An index as it is advised, or asked for to be built. */
export interface WishedIndex {
  readonly keys: readonly string[];
  /** Ordered, unless it is said. */
  readonly kind?: IndexSuggestion['kind'];
  readonly language?: IndexSuggestion['language'];
}

/** The indexes that are advised together, as a rule one. */
export function indexesOf({
  beside = [],
  keys,
  kind,
  language,
}: Pick<IndexSuggestion, 'keys' | 'beside' | 'kind' | 'language'>): readonly WishedIndex[] {
  return [{ keys, kind, language }, ...beside.map((one) => ({ keys: one }))];
}

/** What the contract asks for by a wish. */
export const requestOf = ({ keys, kind, language }: WishedIndex) =>
  kind === 'text' ? { kind, keys: [...keys], ...(language && { language }) } : { keys: [...keys], ...(kind !== undefined && { kind }) };

/** What an index is called where it is told of: `a text index`. */
export const kindText = ([first, ...more]: readonly WishedIndex[]): string =>
  first?.kind === undefined ? (more.length === 0 ? 'an index' : 'indexes') : `a ${first.kind} index`;

/** Indexes by their keys: `a, b` or `a and b, c`. */
export function keysText(indexes: readonly WishedIndex[]): string {
  return indexes.map(({ keys }) => keys.join(', ')).join(' and ');
}
