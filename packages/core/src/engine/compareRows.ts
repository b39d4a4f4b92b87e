import { equalValues } from '../values/equality.ts';
import { keyOf, type MapKey } from '../values/keys.ts';
import type { Json } from '../values/json.ts';

/** How two results differ, rows taken as a bag. Lists hold the first rows of each kind. */
export interface RowComparison {
  readonly sameSet: boolean;
  readonly sameOrder: boolean;
  readonly rows: readonly [number, number];
  readonly onlyInFirst: readonly Json[];
  readonly onlyInSecond: readonly Json[];
  /** Rows of the same identity with other contents. */
  readonly differing: readonly { readonly identity: string; readonly first: Json; readonly second: Json }[];
  readonly counts: { readonly onlyInFirst: number; readonly onlyInSecond: number; readonly differing: number };
}

const listed = 200;

/**
 * Compares two results.
 * @param identityOf the identity of a row, or undefined where it has none; rows of one identity are set side by side
 */
export function compareRows(first: readonly Json[], second: readonly Json[], identityOf: (row: Json) => string | undefined): RowComparison {
  const left = surplus(first, second);
  const right = surplus(second, first);
  const byIdentity = new Map<string, Json>();
  for (const row of right) {
    const identity = identityOf(row);
    if (identity !== undefined) byIdentity.set(identity, row);
  }
  const differing: { identity: string; first: Json; second: Json }[] = [];
  const matched = new Set<Json>();
  const onlyInFirst = left.filter((row) => {
    const identity = identityOf(row);
    const partner = identity === undefined ? undefined : byIdentity.get(identity);
    if (identity === undefined || partner === undefined || matched.has(partner)) return true;
    matched.add(partner);
    differing.push({ identity, first: row, second: partner });
    return false;
  });
  const onlyInSecond = right.filter((row) => !matched.has(row));
  const sameSet = left.length === 0 && right.length === 0;
  return {
    sameSet,
    sameOrder: sameSet && first.every((row, i) => equalValues(row, second[i])),
    rows: [first.length, second.length],
    onlyInFirst: onlyInFirst.slice(0, listed),
    onlyInSecond: onlyInSecond.slice(0, listed),
    differing: differing.slice(0, listed),
    counts: { onlyInFirst: onlyInFirst.length, onlyInSecond: onlyInSecond.length, differing: differing.length },
  };
}

/** The rows of one bag that are not in another, as often as they are more. */
function surplus(rows: readonly Json[], others: readonly Json[]): Json[] {
  const counts = new Map<MapKey, number>();
  for (const row of others) {
    const key = keyOf(row);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return rows.filter((row) => {
    const key = keyOf(row);
    const left = counts.get(key) ?? 0;
    counts.set(key, left - 1);
    return left <= 0;
  });
}
