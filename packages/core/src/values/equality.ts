import type { Json, Value } from './json.ts';

/** Equality of RFC 9535, 2.3.5.2.2: by value and deep; *nothing* equals only *nothing*. */
export function equalValues(a: Value, b: Value): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a)) {
    if (!Array.isArray(b) || a.length !== b.length) return false;
    for (let i = 0; i < a.length; i++) if (!equalValues(a[i], b[i])) return false;
    return true;
  }
  if (Array.isArray(b)) return false;
  const names = Object.keys(a);
  if (names.length !== Object.keys(b).length) return false;
  for (const name of names) {
    if (!Object.hasOwn(b, name) || !equalValues(a[name], b[name])) return false;
  }
  return true;
}

/**
 * A text that two values share exactly when they are equal, for hashing. Texts and numbers of different
 * types never meet; the names of an object are sorted.
 */
export function hashKey(value: Value): string {
  switch (typeof value) {
    case 'string':
      return '"' + value;
    case 'number':
      return '#' + (value === 0 ? 0 : value);
    case 'boolean':
      return value ? 't' : 'f';
    case 'undefined':
      return '-';
    default:
      return value === null ? 'n' : structureKey(value);
  }
}

function structureKey(value: Json): string {
  if (Array.isArray(value)) return '[' + value.map((item) => JSON.stringify(hashKey(item))).join(',') + ']';
  if (typeof value !== 'object' || value === null) return hashKey(value);
  const names = Object.keys(value).sort();
  return '{' + names.map((name) => JSON.stringify(name) + ':' + JSON.stringify(hashKey(value[name]))).join(',') + '}';
}
