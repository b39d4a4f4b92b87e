import { equalValues } from '../values/equality.ts';
import type { Json, Value } from '../values/json.ts';

/**
 * A test of equality with any element of a list that is the same for all rows: a hash set for the plain
 * values, a comparison with each array or object. What is no list has no members.
 */
export function memberTest(list: Value): (value: Value) => boolean {
  if (!Array.isArray(list)) return () => false;
  const plain = new Set<Json>(list.filter((item) => typeof item !== 'object' || item === null));
  const structured = list.filter((item) => typeof item === 'object' && item !== null);
  return (value) => {
    if (value === undefined) return false;
    if (typeof value !== 'object' || value === null) return plain.has(value);
    return structured.some((item) => equalValues(item, value));
  };
}
