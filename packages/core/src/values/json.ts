/** A JSON value (RFC 8259) as the engine holds it. Numbers are IEEE 754 doubles. */
export type Json = null | boolean | number | string | Json[] | JsonObject;

export interface JsonObject {
  [name: string]: Json;
}

/** What an expression gives: a JSON value, or `undefined` for *nothing* (RFC 9535, 2.4.1). */
export type Value = Json | undefined;

export function isObject(value: unknown): value is JsonObject {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
