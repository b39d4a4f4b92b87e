import { isObject, type Json, type JsonObject } from '@zesty-sieve/core';
import { isTooDeep } from './scan.ts';

export const largestDocument = 16 * 1024 * 1024;

/** Reads one document. @returns it, or a clause that says why the text is none that can be stored */
export function readDocument(text: string): { readonly parsed: JsonObject } | { readonly problem: string } {
  if (text.length > largestDocument) return { problem: 'the document is larger than 16 MB' };
  let parsed: Json;
  try {
    parsed = JSON.parse(text) as Json;
  } catch (error) {
    return { problem: `it is no JSON: ${(error as Error).message}` };
  }
  if (!isObject(parsed))
    return {
      problem: `a document is an object, and this is ${Array.isArray(parsed) ? 'an array' : parsed === null ? 'null' : `a ${typeof parsed}`}`,
    };
  return isTooDeep(text, parsed) ? { problem: 'it is nested more than 500 levels deep' } : { parsed };
}
