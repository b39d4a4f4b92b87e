/** The constant of reciprocal rank fusion (Cormack, Clarke, Büttcher 2009). */
const fusionConstant = 60;

/**
 * Fuses rankings, each a list of keys with what they stand for, the best first: each has the sum of what its places give, taken in the
 * order of the rankings. Gives what the keys stand for with the sums, in no order.
 */
export function fused<T>(
  lists: readonly (readonly (readonly [key: number, value: T])[])[],
  rankings: readonly { readonly weight: number }[],
): [value: T, score: number][] {
  const found = new Map<number, [T, number]>();
  lists.forEach((list, r) =>
    list.forEach(([key, value], i) => {
      const own = found.get(key);
      const given = rankings[r]!.weight / (fusionConstant + i + 1);
      if (own === undefined) found.set(key, [value, given]);
      else own[1] += given;
    }),
  );
  return [...found.values()];
}
