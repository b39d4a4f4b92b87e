import type { IndexRequestBody, IndexSuggestion } from '@zesty-sieve/contract';

/** An index as it is advised, or asked for to be built. */
export interface WishedIndex {
  readonly keys: readonly string[];
  /** Ordered, unless it is said. */
  readonly kind?: IndexSuggestion['kind'];
  readonly language?: IndexSuggestion['language'];
  /** Of a vector index. */
  readonly metric?: IndexSuggestion['metric'];
}

/** The indexes that are advised together, as a rule one. */
export function indexesOf({
  beside = [],
  keys,
  kind,
  language,
  metric,
}: Pick<IndexSuggestion, 'keys' | 'beside' | 'kind' | 'language' | 'metric'>): readonly WishedIndex[] {
  return [{ keys, kind, language, metric }, ...beside.map((one) => ({ keys: one }))];
}

/** What the contract asks for by a wish. */
export function requestOf({ keys, kind, language, metric }: WishedIndex): IndexRequestBody {
  switch (kind) {
    case undefined:
      return { keys: [...keys] };
    case 'text':
      return { kind, keys: [...keys], ...(language && { language }) };
    case 'vector':
      return { kind, keys: [...keys], ...(metric && { metric }) };
    case 'place':
      return { kind, keys: [...keys] };
  }
}

/** What an index is called where it is told of: `a text index`. */
export const kindText = ([first, ...more]: readonly WishedIndex[]): string =>
  first?.kind === undefined ? (more.length === 0 ? 'an index' : 'indexes') : `a ${first.kind} index`;

/** Indexes by their keys: `a, b` or `a and b, c`. */
export function keysText(indexes: readonly WishedIndex[]): string {
  return indexes.map(({ keys }) => keys.join(', ')).join(' and ');
}
