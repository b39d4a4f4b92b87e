import type { Several } from '../values/several.ts';
import { copyOf, isPlainName, readField, writeField } from '../values/fields.ts';
import { isObject, type Json, type JsonObject, type Value } from '../values/json.ts';

/** A copy of a row with a value at a name. */
export type Place = (row: Json, value: Value) => Json;

/**
 * How values are put under a name that rows are given; the common plain name without detours.
 * @param used the fields that later lines look at, where that is known: the others are not copied
 */
export function placeAt(target: readonly string[], used?: readonly string[]): Place {
  const [name] = target as Several<string>;
  if (used !== undefined && target.length === 1 && used.every(isPlainName) && isPlainName(name)) {
    const others = used.filter((one) => one !== name);
    return (row, value) => {
      const copy: JsonObject = {};
      for (const other of others) {
        const found = (row as Record<string, Value>)[other];
        if (found !== undefined) copy[other] = found;
      }
      if (value !== undefined) copy[name] = value;
      return copy;
    };
  }
  if (target.length === 1 && isPlainName(name)) {
    return (row, value) => {
      const copy = copyOf(row as JsonObject);
      if (value === undefined) delete copy[name];
      else copy[name] = value;
      return copy;
    };
  }
  if (target.length === 1) {
    return (row, value) => {
      const copy = copyOf(row as JsonObject);
      if (value === undefined) delete copy[name];
      else writeField(copy, name, value);
      return copy;
    };
  }
  return (row, value) => (isObject(row) ? assigned(row, target, value, () => undefined) : row);
}

/**
 * A copy of a row with a value at a chain of names, or without it where the value is nothing. Where the chain leads
 * through a value that is no object, the row is left alone.
 */
export function assigned(row: Json, names: readonly string[], value: Value, misplaced: (found: Value) => void): Json {
  const [first, ...rest] = names as Several<string>;
  if (!isObject(row)) {
    misplaced(row);
    return row;
  }
  let next: Value = value;
  if (rest.length > 0) {
    const below = readField(row, first);
    if (below === undefined && value === undefined) return row;
    if (below !== undefined && !isObject(below)) {
      misplaced(below);
      return row;
    }
    next = assigned(below ?? {}, rest, value, misplaced);
    if (next === below) return row;
  }
  const copy = copyOf(row);
  if (next === undefined) delete copy[first];
  else writeField(copy, first, next);
  return copy;
}
