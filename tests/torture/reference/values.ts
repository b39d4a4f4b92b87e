import type { Json } from '@zesty-sieve/core/language';

/*
 * Values as notation.md speaks of them, written as plainly as can be. Nothing here is shared with the engine: what the two
 * have in common is the tree that the parser makes.
 */

/** A value, or *nothing*. */
export type Value = Json | undefined;
export type Fields = { [name: string]: Json };

export function isFields(value: Value): value is Fields {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

export function isEmpty(value: Value): boolean {
  return value === undefined || value === null;
}

export function equal(a: Value, b: Value): boolean {
  if (Array.isArray(a)) return Array.isArray(b) && a.length === b.length && a.every((one, i) => equal(one, b[i]));
  if (isFields(a)) {
    if (!isFields(b)) return false;
    const [x, y] = [Object.keys(a), Object.keys(b)];
    return x.length === y.length && x.every((name) => Object.hasOwn(b, name) && equal(a[name], b[name]));
  }
  return a === b;
}

/** The place of a kind in the order of values; null, inside arrays and objects, comes after objects. */
function rank(value: Json): number {
  if (value === false) return 0;
  if (value === true) return 1;
  if (typeof value === 'number') return 2;
  if (typeof value === 'string') return 3;
  return value === null ? 6 : Array.isArray(value) ? 4 : 5;
}

/** The order of values: below zero, zero, above zero. */
export function order(a: Json, b: Json): number {
  if (rank(a) !== rank(b)) return rank(a) - rank(b);
  if (typeof a === 'number' && typeof b === 'number') return a < b ? -1 : a > b ? 1 : 0;
  if (typeof a === 'string' && typeof b === 'string') return textOrder(a, b);
  if (Array.isArray(a) && Array.isArray(b)) return listOrder(a, b);
  if (isFields(a) && isFields(b)) {
    const [x, y] = [Object.keys(a).sort(textOrder), Object.keys(b).sort(textOrder)];
    const byNames = listOrder(x, y);
    return byNames !== 0 ? byNames : listOrder(x.map((name) => a[name]), y.map((name) => b[name])); // prettier-ignore
  }
  return 0;
}

function listOrder(a: readonly Json[], b: readonly Json[]): number {
  for (let i = 0; i < a.length && i < b.length; i++) {
    const one = order(a[i], b[i]);
    if (one !== 0) return one;
  }
  return a.length - b.length;
}

/** By code point: units of surrogate pairs stand for code points above all others. */
export function textOrder(a: string, b: string): number {
  const place = (unit: number) => (unit >= 0xd800 && unit <= 0xdfff ? unit + 0x10000 : unit);
  for (let i = 0; i < a.length && i < b.length; i++) {
    const difference = place(a.charCodeAt(i)) - place(b.charCodeAt(i));
    if (difference !== 0) return difference;
  }
  return a.length - b.length;
}

/** Sets a field so that `__proto__` is a name like any other. */
export function setField(owner: Fields, name: string, value: Json): void {
  Object.defineProperty(owner, name, { value, writable: true, enumerable: true, configurable: true });
}

export function copied(owner: Fields): Fields {
  const copy: Fields = {};
  for (const name of Object.keys(owner)) setField(copy, name, owner[name]);
  return copy;
}

export function field(owner: Value, name: string): Value {
  return isFields(owner) && Object.hasOwn(owner, name) ? owner[name] : undefined;
}

/**
 * A row with a value at a chain of names. Where the chain leads through what is no object the row stays as it is; of
 * nothing, the field goes, and no object is made on the way.
 */
export function put(row: Fields, [name, ...rest]: readonly string[], value: Value): Fields {
  const copy = copied(row);
  if (rest.length === 0) {
    if (value === undefined) delete copy[name];
    else setField(copy, name, value);
    return copy;
  }
  const below = field(row, name);
  if (below !== undefined && !isFields(below)) return row;
  if (below === undefined && value === undefined) return row;
  setField(copy, name, put(below ?? {}, rest, value));
  return copy;
}

/** A finite double as whole units of 2^-1074. */
export function units(x: number): bigint {
  if (x === 0) return 0n;
  let [mantissa, exponent] = [x, 0];
  while (!Number.isInteger(mantissa)) {
    mantissa *= 2;
    exponent--;
  }
  return BigInt(mantissa) << BigInt(exponent + 1074);
}

/** The double nearest to `above / below / 2^1074`, found by halving the doubles that it lies between. */
export function nearest(above: bigint, below: bigint): Value {
  if (above === 0n) return 0;
  if (above < 0n) {
    const positive = nearest(-above, below);
    return typeof positive === 'number' ? -positive : undefined;
  }
  const view = new DataView(new ArrayBuffer(8));
  const double = (bits: bigint) => (view.setBigUint64(0, bits), view.getFloat64(0));
  // Doubles above zero are in the order of their bits.
  let [low, high] = [0n, 0x7fefffffffffffffn];
  while (low < high) {
    const middle = (low + high + 1n) / 2n;
    if (units(double(middle)) * below <= above) low = middle;
    else high = middle - 1n;
  }
  const left = above - units(double(low)) * below;
  const isGreatest = low === 0x7fefffffffffffffn;
  const step = isGreatest ? 1n << 2045n : units(double(low + 1n)) - units(double(low));
  const up = 2n * left > step * below || (2n * left === step * below && low % 2n === 1n);
  if (up && isGreatest) return undefined;
  return double(up ? low + 1n : low);
}

/** The sum of numbers, without error, rounded once; nothing where that is beyond a double. */
export function sum(numbers: readonly number[]): Value {
  return nearest(
    numbers.reduce((total, x) => total + units(x), 0n),
    1n,
  );
}
