import { printLiteral, type Json } from '@zesty-sieve/core/language';
import { isFields } from './reference/values.ts';

/** JSON as a literal of the notation; undefined for numbers that it has no form for. */
export function literalOf(value: Json): string | undefined {
  if (Array.isArray(value)) {
    const items = value.map(literalOf);
    return items.includes(undefined) ? undefined : `[${items.join(', ')}]`;
  }
  if (isFields(value)) {
    const entries = Object.keys(value).map((name) => [JSON.stringify(name), literalOf(value[name])] as const);
    return entries.some(([, one]) => one === undefined) ? undefined : `{${entries.map(([name, one]) => `${name}: ${one}`).join(', ')}}`;
  }
  if (typeof value === 'number' && Number.isInteger(value) && !Number.isSafeInteger(value)) return undefined;
  if (typeof value === 'string')
    return JSON.stringify(value).replace(/[\u007f-\uffff]/g, (unit) => `\\u${unit.charCodeAt(0).toString(16).padStart(4, '0')}`);
  return printLiteral(value as null | boolean | number | string);
}
