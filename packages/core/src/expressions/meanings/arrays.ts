import { equalValues, hashKey } from '../../values/equality.ts';
import type { Json, Value } from '../../values/json.ts';
import { compareValues } from '../../values/order.ts';

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
  let sum = 0;
  let found = false;
  for (const item of array) {
    if (typeof item === 'number') {
      sum += item;
      found = true;
    }
  }
  return found && Number.isFinite(sum) ? sum : undefined;
}

export function avgOf(array: Json[]): number | undefined {
  const numbers = numbersOf(array);
  const sum = sumOf(numbers);
  return sum === undefined ? undefined : sum / numbers.length;
}

export function medianOf(array: Json[]): number | undefined {
  const numbers = Float64Array.from(numbersOf(array)).sort();
  if (numbers.length === 0) return undefined;
  const middle = numbers.length >> 1;
  return numbers.length % 2 === 1 ? numbers[middle] : (numbers[middle - 1] + numbers[middle]) / 2;
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
  const seen = new Map<string, Json>();
  for (const item of array) {
    const key = hashKey(item);
    if (!seen.has(key)) seen.set(key, item);
  }
  return [...seen.values()];
}

export function sortedOf(array: Json[]): Json[] {
  return [...array].sort(compareValues);
}
