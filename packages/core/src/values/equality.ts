import type { Value } from './json.ts';

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
