import { ExactSum } from '../../values/exactSum.ts';
import { equalValues } from '../../values/equality.ts';
import { keyOf, type MapKey } from '../../values/keys.ts';
import type { Json, Value } from '../../values/json.ts';
import { compareValues } from '../../values/order.ts';
import { finite } from './numbers.ts';

export function includes(array: Json[], value: Value): boolean {
  if (value === undefined) return false;
  if (typeof value !== 'object' || value === null) return array.includes(value);
  return array.some((item) => equalValues(item, value));
}

export function includesAll(array: Json[], values: Json[]): boolean {
  return values.every((value) => includes(array, value));
}

function numbersOf(array: Json[]): number[] {
  return array.filter((item): item is number => typeof item === 'number');
}

export function sumOf(array: Json[]): number | undefined {
  const numbers = numbersOf(array);
  return numbers.length === 0 ? undefined : finite(exactSumOf(numbers));
}

export function avgOf(array: Json[]): number | undefined {
  const numbers = numbersOf(array);
  return numbers.length === 0 ? undefined : finite(exactSumOf(numbers) / numbers.length);
}

function exactSumOf(numbers: readonly number[]): number {
  const sum = new ExactSum();
  for (const number of numbers) sum.add(number);
  return sum.value;
}

export function medianOf(array: Json[]): number | undefined {
  const numbers = Float64Array.from(numbersOf(array)).sort();
  if (numbers.length === 0) return undefined;
  const middle = numbers.length >> 1;
  return numbers.length % 2 === 1 ? numbers[middle] : halfway(numbers[middle - 1]!, numbers[middle]!);
}

/** The sum of two numbers may be beyond a double where half of it is not. */
function halfway(a: number, b: number): number {
  const sum = a + b;
  return Number.isFinite(sum) ? sum / 2 : a / 2 + b / 2;
}

/** The value that comes first by the order of values, null passed over, among an array's. */
function extreme(array: Json[], sign: 1 | -1): Value {
  let best: Value;
  for (const item of array) {
    if (item !== null && (best === undefined || sign * compareValues(item, best) < 0)) best = item;
  }
  return best;
}
export const minOf = (array: Json[]): Value => extreme(array, 1);
export const maxOf = (array: Json[]): Value => extreme(array, -1);

export function distinctOf(array: Json[]): Json[] {
  const seen = new Map<MapKey, Json>();
  for (const item of array) {
    const key = keyOf(item);
    if (!seen.has(key)) seen.set(key, item);
  }
  return [...seen.values()];
}

export function sortedOf(array: Json[]): Json[] {
  return [...array].sort(compareValues);
}
