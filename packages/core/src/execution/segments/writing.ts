import type { Context, Site } from '../../expressions/context.ts';
import type { Atom } from '../../expressions/emitter.ts';
import { Slots } from '../../expressions/slots.ts';
import { internalized, isPlainOfObjects } from '../../values/fields.ts';
import { isObject, type Json, type Value } from '../../values/json.ts';
import { assigned } from '../placing.ts';
import type { Loop } from './loop.ts';

/** The field of a row at a plain name. */
export function emitField({ emitter }: Loop, row: Slots, name: string): Atom {
  const found = row.find(name);
  if (found === undefined) return 'undefined';
  return 'held' in found ? found.held : emitter.variable(`${found.in}[${emitter.constant(internalized(name))}]`);
}

/** A row that an expression gives as an object: the way round for what cannot be done in slots. */
export function emitRow({ emitter }: Loop, expression: string): Slots {
  const made = emitter.row();
  emitter.line(`const ${made} = ${expression};`);
  return Slots.of(made);
}

/**
 * A row with a value at a chain of names. Where the chain leads through a value that is no object, the row is left alone, which is
 * noted at the site.
 * @param target the same list each time, by which the loop is known again
 */
export function emitWrite(loop: Loop, row: Slots, target: readonly string[], value: Atom, site?: Site): Slots {
  const { emitter } = loop;
  const [name] = target as readonly [string, ...string[]];
  const told = site === undefined ? 'undefined' : emitter.constant(site);
  if (!isPlainOfObjects(name)) {
    const write = `${emitter.constant(writeAt)}(${row.object(emitter)}, ${emitter.constant(target)}, ${value}, ${told}, context)`;
    return emitRow(loop, write);
  }
  if (target.length === 1) return row.with(name, value);
  const before = emitField(loop, row, name);
  return row.with(name, emitter.variable(`${emitter.constant(writeBelow)}(${before}, ${emitter.constant(target)}, ${value}, ${told}, context)`)); // prettier-ignore
}

function writeAt(row: Json, target: readonly string[], value: Value, site: Site | undefined, context: Context): Json {
  return assigned(row, target, value, (found) => {
    if (site !== undefined) context.misfits.note(site, 0, found);
  });
}

/** What stands at the first of the names, once a value is at the end of the chain. */
function writeBelow(before: Value, target: readonly string[], value: Value, site: Site | undefined, context: Context): Value {
  if (before === undefined && value === undefined) return undefined;
  if (before !== undefined && !isObject(before)) {
    if (site !== undefined) context.misfits.note(site, 0, before);
    return before;
  }
  return writeAt(before ?? {}, target.slice(1), value, site, context);
}
