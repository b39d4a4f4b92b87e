import type { Json, Value } from '../../values/json.ts';
import { kindOf } from '../../values/kind.ts';

const numeral = /^\s*[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d+)?\s*$/;

export function toNumber(value: Value): number | undefined {
  if (typeof value === 'number') return value;
  if (typeof value === 'boolean') return value ? 1 : 0;
  if (typeof value !== 'string' || !numeral.test(value)) return undefined;
  const number = Number(value);
  return Number.isFinite(number) ? number : undefined;
}

export function toText(value: Value): string | undefined {
  if (value === undefined || value === null) return undefined;
  return typeof value === 'string' ? value : JSON.stringify(value);
}

export function toBoolean(value: Value): boolean | undefined {
  if (typeof value === 'boolean') return value;
  if (value === 'true' || value === 1) return true;
  return value === 'false' || value === 0 ? false : undefined;
}

export function typeOf(value: Value): Json {
  return kindOf(value);
}
