import { LRUCache } from 'lru-cache';

/** Functions that are kept: those of about so many pipelines. */
const kept = new LRUCache<string, { readonly data: readonly unknown[]; readonly made: unknown }[]>({ max: 1_000 });
/** Functions of one text that differ in their data. */
const keptOfOneText = 4;

/**
 * The one place where source text becomes a function. `body` is made by the emitter alone and holds no text of
 * the user's: literals, names and paths come in as `data` and stand in the body as k0, k1, … The same text with the same data is
 * made once, so that what V8 has learnt of it stays.
 */
export function openDoor(parameters: readonly string[], body: string, data: readonly unknown[]): unknown {
  const text = `${parameters.join(', ')}\n${body}`;
  const known = kept.get(text);
  const same = known?.find((one) => one.data.length === data.length && one.data.every((value, i) => Object.is(value, data[i])));
  if (same !== undefined) return same.made;
  const unpacked = data.map((_, i) => `const k${i} = data[${i}];`).join('\n');
  const make = new Function('data', `'use strict';\n${unpacked}\nreturn function (${parameters.join(', ')}) {\n${body}\n};`);
  const made = (make as (data: readonly unknown[]) => unknown)(data);
  kept.set(text, [{ data, made }, ...(known ?? []).slice(0, keptOfOneText - 1)]);
  return made;
}
