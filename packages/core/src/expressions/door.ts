/**
 * The one place where source text becomes a function. `body` is made by the emitter alone and holds no text of
 * the user's: literals, names and paths come in as `data` and stand in the body as k0, k1, …
 */
export function openDoor(parameters: readonly string[], body: string, data: readonly unknown[]): unknown {
  const unpacked = data.map((_, i) => `const k${i} = data[${i}];`).join('\n');
  const make = new Function('data', `'use strict';\n${unpacked}\nreturn function (${parameters.join(', ')}) {\n${body}\n};`);
  return (make as (data: readonly unknown[]) => unknown)(data);
}
