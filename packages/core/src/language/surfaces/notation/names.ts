import type { GivenName } from '../../stages/stage.ts';
import type { Identified } from '../../places.ts';
import { isPlainlyWritten } from './print.ts';
import type { Reader } from './reader.ts';

/** A name that a stage gives, perhaps nested: `x`, `x.y`, `"odd name".y`. */
export function parseGivenName(reader: Reader, expected = 'a name'): GivenName {
  const start = reader.token;
  const names = [part(reader, expected)];
  while (reader.isSign('.') && reader.adjacent) {
    reader.take();
    names.push(part(reader, 'a name right after the dot'));
  }
  return { names, ...reader.placeFrom(start) };
}

function part(reader: Reader, expected: string): string {
  const token = reader.token;
  if (token.kind !== 'name' && token.kind !== 'string') reader.fail(expected);
  reader.take();
  return token.kind === 'string' ? token.value : token.text;
}

export function printGivenName(names: readonly string[]): string {
  return names.map((name) => (isPlainlyWritten(name) ? name : JSON.stringify(name))).join('.');
}

/** The name of a collection or view: a letter, then letters, digits, `_` and `-`. */
export function parseSourceName(reader: Reader): { name: string } & Identified {
  reader.want('source');
  const start = reader.expectName('the name of a collection');
  let name = start.text;
  // A dash splits a name into tokens, which follow one another without white space.
  while (reader.adjacent && (reader.isSign('-') || reader.token.kind === 'name' || reader.token.kind === 'number')) {
    name += reader.take().text;
    if (reader.adjacent) reader.want('source', start.from);
  }
  return { name, ...reader.placeFrom(start) };
}
