import { sqlName } from '../words.ts';
import type { Item } from './block.ts';

/** Columns; those that share the beginning of their names are one object. */
export function nested(items: readonly Item[]): string[] {
  const names = [...new Set(items.map(({ target }) => target[0]!))];
  return names.map((name) => {
    const own = items.filter(({ target }) => target[0] === name);
    const [only] = own;
    const text = own.length === 1 && only!.target.length === 1 ? only!.text : `JSON_OBJECT(${nestedEntries(own, 1).join(', ')})`;
    return text === sqlName(name) || (text.endsWith(`.${sqlName(name)}`) && /^[\w.]+$/.test(text)) ? text : `${text} AS ${sqlName(name)}`;
  });
}

function nestedEntries(items: readonly Item[], depth: number): string[] {
  const names = [...new Set(items.map(({ target }) => target[depth]!))];
  return names.map((name) => {
    const own = items.filter(({ target }) => target[depth] === name);
    const text = own[0]!.target.length === depth + 1 ? own[0]!.text : `JSON_OBJECT(${nestedEntries(own, depth + 1).join(', ')})`;
    return `'${name.replace(/'/g, "''")}': ${text}`;
  });
}
