import type { Json, Value } from './json.ts';

/*
 * About how many bytes values take in V8's heap beyond the reference to them, as measured by what the heap grew by
 * (`npm run torture` holds runs to it): estimates for the memory guard, not exact figures.
 */

/** An object that fields were added to one by one: four have their place in it, further ones in stretches of three beside it. */
export function objectBytes(fields: number): number {
  return fields <= 4 ? 56 : 72 + 24 * Math.ceil((fields - 4) / 3);
}

/** An array that elements were added to one by one: it has room for 17 from the first on. */
export function arrayBytes(elements: number): number {
  return elements === 0 ? 32 : 48 + 8 * Math.max(17, elements);
}

/** An array that was made with as much room as it has elements. */
export function fullArrayBytes(elements: number): number {
  return elements === 0 ? 32 : 48 + 8 * elements;
}

/** A number that is no small whole one is an object of its own. */
export function numberBytes(value: number): number {
  return (value | 0) === value ? 0 : 16;
}

export function textBytes(text: string): number {
  return 24 + text.length;
}

/** All that a value takes. */
export function estimateBytes(value: Value): number {
  switch (typeof value) {
    case 'string':
      return textBytes(value);
    case 'number':
      return numberBytes(value);
    case 'object': {
      if (value === null) return 0;
      let bytes = shellBytes(value);
      if (Array.isArray(value)) for (const item of value) bytes += typeof item === 'number' ? 0 : estimateBytes(item);
      else for (const name in value) bytes += typeof value[name] === 'number' ? 0 : estimateBytes(value[name]);
      return bytes;
    }
    default:
      return 0;
  }
}

/** An array or object alone, with its numbers and without what else stands in it. */
export function shellBytes(value: Value): number {
  if (typeof value !== 'object' || value === null) return 0;
  if (Array.isArray(value)) return arrayBytes(value.length);
  let fields = 0;
  let numbers = 0;
  for (const name in value) {
    fields++;
    const field: Json = value[name]!;
    if (typeof field === 'number') numbers += numberBytes(field);
  }
  return objectBytes(fields) + numbers;
}
