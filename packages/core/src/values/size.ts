import type { Value } from './json.ts';

/**
 * About how many bytes a value takes in memory beyond the reference to it: strings at one byte a unit plus a
 * header, objects and arrays with their slots. An estimate for the memory guard, not an exact figure.
 */
export function estimateBytes(value: Value): number {
  switch (typeof value) {
    case 'string':
      return 16 + value.length;
    case 'number':
      return 8;
    case 'object': {
      if (value === null) return 0;
      if (Array.isArray(value)) {
        let bytes = 32;
        for (const item of value) bytes += 8 + estimateBytes(item);
        return bytes;
      }
      let bytes = 32;
      for (const name in value) bytes += 8 + estimateBytes(value[name]);
      return bytes;
    }
    default:
      return 0;
  }
}
