import type { Json, JsonObject, Value } from './json.ts';

export type Direction = 'asc' | 'desc';
/** Where an order puts null and missing, which tie. */
export type NullsPlace = 'first' | 'last';

/** Whether UTF-16 order and code point order can part on a text: it holds a unit at or above U+D800. */
export function needsCodePoints(text: string): boolean {
  return /[\ud800-\uffff]/.test(text);
}

/**
 * Order of two texts by Unicode code point, as RFC 9535 (2.3.5.2.2) asks. JavaScript compares UTF-16 code
 * units, which puts U+10000 and above before U+E000; only a first difference of two such units is mended.
 */
export function compareText(a: string, b: string): number {
  if (a === b) return 0;
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const x = a.charCodeAt(i);
    const y = b.charCodeAt(i);
    if (x !== y) {
      if (x >= 0xd800 && y >= 0xd800) return codePointRank(x) - codePointRank(y);
      return x < y ? -1 : 1;
    }
  }
  return a.length - b.length;
}

function codePointRank(unit: number): number {
  return unit <= 0xdfff ? unit + 0x10000 : unit;
}

/** false, true, numbers, text, arrays, objects; then null; then missing. */
export function orderRank(value: Value): number {
  switch (typeof value) {
    case 'boolean':
      return value ? 1 : 0;
    case 'number':
      return 2;
    case 'string':
      return 3;
    case 'undefined':
      return 7;
    default:
      return value === null ? 6 : Array.isArray(value) ? 4 : 5;
  }
}

/**
 * The total order of values: false, true, numbers, text by code point, arrays element by element, objects by
 * sorted names and then values; null and missing after everything, missing last.
 * @returns below, equal to or above zero
 */
export function compareValues(a: Value, b: Value): number {
  const rank = orderRank(a);
  const difference = rank - orderRank(b);
  if (difference !== 0) return difference;
  if (rank === 2) return (a as number) < (b as number) ? -1 : (a as number) > (b as number) ? 1 : 0;
  if (rank === 3) return compareText(a as string, b as string);
  if (rank === 4) return compareArrays(a as Json[], b as Json[]);
  if (rank === 5) return compareObjects(a as JsonObject, b as JsonObject);
  return 0;
}

/**
 * How two values of one key of an order stand to each other: null and missing tie, and stand where the order puts them.
 * @param sign 1 for ascending, -1 for descending
 */
export function compareInOrder(a: Value, b: Value, sign: 1 | -1, nulls: NullsPlace): number {
  // What is compared as a rule.
  if (typeof a === 'string' && typeof b === 'string') return sign * compareText(a, b);
  if (typeof a === 'number' && typeof b === 'number') return a < b ? -sign : a > b ? sign : 0;
  const emptyA = a === undefined || a === null;
  const emptyB = b === undefined || b === null;
  if (emptyA || emptyB) return emptyA === emptyB ? 0 : emptyA === (nulls === 'first') ? -1 : 1;
  return sign * compareValues(a, b);
}

function compareArrays(a: Json[], b: Json[]): number {
  const shared = Math.min(a.length, b.length);
  for (let i = 0; i < shared; i++) {
    const order = compareValues(a[i], b[i]);
    if (order !== 0) return order;
  }
  return a.length - b.length;
}

function compareObjects(a: JsonObject, b: JsonObject): number {
  const namesA = Object.keys(a).sort(compareText);
  const namesB = Object.keys(b).sort(compareText);
  const names = compareArrays(namesA, namesB);
  if (names !== 0) return names;
  for (const name of namesA) {
    const order = compareValues(a[name], b[name]);
    if (order !== 0) return order;
  }
  return 0;
}
