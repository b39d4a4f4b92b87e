import type { Json, Value } from './json.ts';

/**
 * The one place where values become keys of maps and sets. Two values share a key exactly when they are equal by
 * RFC 9535, 2.3.5.2.2: numbers by value, arrays and objects whole.
 */

/** What a map finds a value by: the value itself where it is plain, else a text that no plain value is. */
export type MapKey = string | number | boolean | null | undefined;

/** Marks texts that stand for something else than themselves. */
const mark = '\u0000';

/** The key of one value; null and missing have keys of their own. */
export function keyOf(value: Value): MapKey {
  if (typeof value === 'string') return value.charCodeAt(0) === 0 ? inOnePiece(mark + spelled(value)) : value;
  return typeof value === 'object' && value !== null ? inOnePiece(mark + spelled(value)) : value;
}

/** The one key of several values side by side. Each part says where it ends, whatever stands in it. */
export function keyOfAll(values: readonly Value[]): string {
  let text = '';
  for (const value of values) text += spelled(value);
  return inOnePiece(text);
}

let read = 0;
/**
 * A text in one piece. V8 keeps one that was put together as a tree of its parts until somebody reads it whole, which a map does not do:
 * its keys would hold three times what they say. Reading it as a number does, and the number is kept so that it is not left out.
 */
function inOnePiece(text: string): string {
  read = Number(text) + read;
  return text;
}

/** A value written so that it is the beginning of no other: texts by their length, numbers up to a sign of their own. */
function spelled(value: Value): string {
  switch (typeof value) {
    case 'string':
      return `"${value.length}:${value}`;
    case 'number':
      // Both zeros are one number.
      return `#${value === 0 ? 0 : value};`;
    case 'boolean':
      return value ? 't' : 'f';
    case 'undefined':
      return '-';
    default:
      return value === null ? 'n' : spelledWhole(value);
  }
}

function spelledWhole(value: Json[] | Record<string, Json>): string {
  if (Array.isArray(value)) {
    let text = '[';
    for (const item of value) text += spelled(item);
    return text + ']';
  }
  let text = '{';
  for (const name of Object.keys(value).sort()) text += spelled(name) + spelled(value[name]);
  return text + '}';
}
