/** A list of one at least. */
export type Several<T> = readonly [T, ...T[]];

export function isSeveral<T>(list: readonly T[]): list is Several<T> {
  return list.length > 0;
}

/** The same list with each of its items changed. */
export function mapSeveral<T, R>([first, ...others]: Several<T>, change: (item: T) => R): Several<R> {
  return [change(first), ...others.map(change)];
}
