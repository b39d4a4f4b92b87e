import type { Collection, Json } from '@zesty-sieve/core';
import { meanOfSome } from './meanOfSome.ts';

/** Documents that are weighed to tell what all take. */
const weighed = 4_000;
/** Texts up to this long are kept once by V8 where JSON is parsed, however often they come. */
const sharedLength = 10;

/**
 * About what the documents of a collection take on the heap, in bytes: their objects, arrays and texts as V8 lays them out on 64 bits
 * (a pointer 8, an object 24 and 8 a field, an array 32 and 8 an element, a text 16 and its letters). Indexes tell of themselves.
 */
export function documentBytes({ store }: Collection): number {
  const seen = new Set<string>();
  return meanOfSome(store, weighed, (document) => 8 + bytesOf(document, seen)) * store.count;
}

function bytesOf(value: Json, seen: Set<string>): number {
  if (typeof value === 'string') return textBytes(value, seen);
  // Whole numbers up to 31 bits stand in the pointer's place.
  if (typeof value === 'number') return Number.isInteger(value) && Math.abs(value) < 2 ** 30 ? 0 : 16;
  if (Array.isArray(value)) return value.reduce<number>((sum, item) => sum + 8 + bytesOf(item, seen), 32);
  if (typeof value !== 'object' || value === null) return 0;
  return Object.values(value).reduce<number>((sum, inner) => sum + 8 + bytesOf(inner, seen), 24);
}

function textBytes(text: string, seen: Set<string>): number {
  if (text.length <= sharedLength) {
    if (seen.has(text)) return 0;
    seen.add(text);
  }
  // eslint-disable-next-line no-control-regex -- letters that take one byte each
  const perLetter = /^[\x00-\xff]*$/.test(text) ? 1 : 2;
  return 16 + Math.ceil((text.length * perLetter) / 8) * 8;
}
