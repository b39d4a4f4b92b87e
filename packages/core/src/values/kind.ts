import type { Value } from './json.ts';

/** The types that `type_of` names; `missing` stands for *nothing*. */
export type Kind = 'null' | 'boolean' | 'number' | 'text' | 'array' | 'object' | 'missing';

export function kindOf(value: Value): Kind {
  switch (typeof value) {
    case 'string':
      return 'text';
    case 'number':
      return 'number';
    case 'boolean':
      return 'boolean';
    case 'undefined':
      return 'missing';
    default:
      return value === null ? 'null' : Array.isArray(value) ? 'array' : 'object';
  }
}
