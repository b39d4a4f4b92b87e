import type { Json, JsonObject, Value } from './json.ts';

/**
 * Names that some JavaScript prototype answers to, or that index into arrays and text. Only these need
 * an own-property check: every other name reads as `undefined` where the field is missing.
 */
const inherited = new Set(
  [Object.prototype, Array.prototype, String.prototype, Number.prototype, Boolean.prototype].flatMap((prototype) =>
    Object.getOwnPropertyNames(prototype),
  ),
);

/** Whether `owner[name]` is safe for any JSON value but null, without asking who owns the name. */
export function isPlainName(name: string): boolean {
  return !inherited.has(name) && !/^\d+$/.test(name);
}

const inheritedByObjects = new Set(Object.getOwnPropertyNames(Object.prototype));

/** Whether `owner[name]` is safe for an object that is no array: `at` and `length` are then names like any other. */
export function isPlainOfObjects(name: string): boolean {
  return !inheritedByObjects.has(name);
}

/** The field of an object, or *nothing*. Any other value has no fields. */
export function readField(owner: Value, name: string): Value {
  if (typeof owner !== 'object' || owner === null || Array.isArray(owner)) return undefined;
  return Object.hasOwn(owner, name) ? owner[name] : undefined;
}

/** The element at a position, negative ones counted from the end (RFC 9535, 2.3.3), or *nothing*. */
export function readElement(owner: Value, position: number): Value {
  if (!Array.isArray(owner)) return undefined;
  return owner[position < 0 ? owner.length + position : position];
}

/** Writes a field so that `__proto__` is data like any other name. */
export function writeField(owner: JsonObject, name: string, value: Json): void {
  if (name === '__proto__') {
    Object.defineProperty(owner, name, { value, writable: true, enumerable: true, configurable: true });
  } else {
    owner[name] = value;
  }
}

/**
 * A copy of an object that takes further fields cheaply. A spread makes one that V8 turns into a hash table, of four times
 * the size, when a field is added; but it alone takes `__proto__` as data.
 */
export function copyOf(owner: JsonObject): JsonObject {
  return Object.hasOwn(owner, '__proto__') ? { ...owner } : Object.assign({}, owner);
}

/** A property name in the form in which the JavaScript engine compares names by pointer. */
export function internalized(name: string): string {
  return Object.keys({ [name]: 0 })[0]!;
}
