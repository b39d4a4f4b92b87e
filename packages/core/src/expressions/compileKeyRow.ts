import { readField, writeField } from '../values/fields.ts';
import { isObject, type JsonObject, type Value } from '../values/json.ts';
import { openDoor } from './door.ts';

/** Where each key of an index stands in a row; undefined for keys that are not wanted there. */
export type KeyTargets = readonly (readonly string[] | undefined)[];

/** Makes a row of the keys at a place, a key a column. */
export type MakeRow = (keys: readonly (readonly Value[])[], at: number) => JsonObject;

const made = new Map<string, MakeRow>();
const mostMade = 200;

/** Compiles what makes rows of an index's keys: one object with all its fields where no key is missing, as nearly always. */
export function compileKeyRow(targets: KeyTargets): MakeRow {
  const known = JSON.stringify(targets);
  let make = made.get(known);
  if (make === undefined) {
    if (made.size >= mostMade) made.clear();
    made.set(known, (make = compiled(targets)));
  }
  return make;
}

type Fields = Map<string, number | Fields>;

function compiled(targets: KeyTargets): MakeRow {
  const root: Fields = new Map();
  const values: string[] = [];
  targets.forEach((names, k) => {
    if (names === undefined) return;
    const last = names.slice(0, -1).reduce<Fields>((fields, name) => {
      const below = fields.get(name);
      if (below instanceof Map) return below;
      const inner: Fields = new Map();
      fields.set(name, inner);
      return inner;
    }, root);
    last.set(names[names.length - 1]!, k);
    values.push(`v${k}`);
  });
  const data: unknown[] = [(keys: Parameters<MakeRow>[0], at: number) => fieldByField(targets, keys, at)];
  const literal = (fields: Fields): string =>
    `{${[...fields]
      .map(([name, field]) => `[k${data.push(name) - 1}]: ${field instanceof Map ? literal(field) : `v${field}`}`)
      .join(', ')}}`;
  const row = literal(root);
  const body = [
    ...values.map((value) => `const ${value} = keys[${value.slice(1)}][at];`),
    ...(values.length === 0 ? [] : [`if (${values.map((value) => `${value} === undefined`).join(' || ')}) return k0(keys, at);`]),
    `return ${row};`,
  ].join('\n');
  return openDoor(['keys', 'at'], body, data) as MakeRow;
}

/** The same where some key is missing: only those that are there are put. */
function fieldByField(targets: KeyTargets, keys: readonly (readonly Value[])[], at: number): JsonObject {
  const row: JsonObject = {};
  for (let k = 0; k < targets.length; k++) {
    const names = targets[k];
    const value = keys[k]![at];
    if (names === undefined || value === undefined) continue;
    let owner = row;
    for (let i = 0; i < names.length - 1; i++) {
      const below = readField(owner, names[i]!);
      const next: JsonObject = isObject(below) ? below : {};
      if (next !== below) writeField(owner, names[i]!, next);
      owner = next;
    }
    writeField(owner, names[names.length - 1]!, value);
  }
  return row;
}
