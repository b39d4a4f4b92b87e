import { pathText } from '@zesty-sieve/core/language';

/** A column's path as it is written in the notation. */
export function writtenPath(column: string): string {
  const names = JSON.parse(column) as (string | number)[];
  return names.reduce<string>((path, name) => (typeof name === 'number' ? `${path}[${name}]` : path + pathText([name], '')), '@');
}
