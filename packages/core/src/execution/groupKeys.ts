import { hashKey } from '../values/equality.ts';
import type { Value } from '../values/json.ts';

/** What a group is found by. Numbers go by value, arrays and objects whole; missing and null are groups of their own. */
export type GroupKey = string | number | boolean | null | undefined;

/** The key of one value: itself where it is plain. */
export function plainKey(value: Value): GroupKey {
  if (typeof value === 'object' && value !== null) return `\u0000${hashKey(value)}`;
  return typeof value === 'string' && value.startsWith('\u0000') ? `\u0000${hashKey(value)}` : value;
}

/** The one key of several values. */
export function combinedKeyOf(values: readonly Value[]): GroupKey {
  let text = '';
  for (const value of values) {
    const part = value === undefined ? '?' : hashKey(value);
    // Lengths keep parts apart whatever stands in them.
    text += `${part.length}:${part}`;
  }
  return text;
}
