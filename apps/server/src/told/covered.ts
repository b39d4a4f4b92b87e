/** Indexes whose keys begin another's, in the same directions: that one serves what they serve. */
export function coveredBy(
  indexes: readonly { readonly name: string; readonly keys: readonly string[]; readonly where: string | null; readonly unique: boolean }[],
): { readonly index: string; readonly by: string }[] {
  return indexes.flatMap(({ name, keys, where, unique }) => {
    if (unique) return [];
    const other = indexes.find(
      (one) =>
        one.name !== name &&
        one.where === where &&
        one.keys.length > keys.length &&
        keys.every((key, k) => key === one.keys[k]) &&
        // One with array elements has an entry for each.
        !one.keys.some((key) => key.includes('[*]') && !keys.includes(key)),
    );
    return other === undefined ? [] : [{ index: name, by: other.name }];
  });
}
