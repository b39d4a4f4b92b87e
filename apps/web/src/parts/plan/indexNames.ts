import type { IndexSuggestion } from '@zesty-sieve/contract';

/** The indexes that are advised together, as a rule one: the keys of each. */
export function indexesOf({ keys, beside = [] }: Pick<IndexSuggestion, 'keys' | 'beside'>): readonly (readonly string[])[] {
  return [keys, ...beside];
}

/** Indexes by their keys: `a, b` or `a and b, c`. */
export function keysText(indexes: readonly (readonly string[])[]): string {
  return indexes.map((keys) => keys.join(', ')).join(' and ');
}
