import type { Value } from '../values/json.ts';

/** An array of as many numbers; undefined where it is none. */
function asVector(value: Value): readonly number[] | undefined {
  if (!Array.isArray(value) || value.length === 0) return undefined;
  for (const one of value) if (typeof one !== 'number') return undefined;
  return value as readonly number[];
}

function pair(a: Value, b: Value): readonly [readonly number[], readonly number[]] | undefined {
  const [one, other] = [asVector(a), asVector(b)];
  return one === undefined || other?.length !== one.length ? undefined : [one, other];
}
const finite = (x: number): number | undefined => (Number.isFinite(x) ? x : undefined);

export function dotProduct(a: Value, b: Value): number | undefined {
  const both = pair(a, b);
  return both && finite(dot(...both));
}

function dot(a: readonly number[], b: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i]! * b[i]!;
  return sum;
}

/** The cosine of the angle between two vectors; *nothing* for one of zeros. */
export function cosineSimilarity(a: Value, b: Value): number | undefined {
  const both = pair(a, b);
  if (both === undefined) return undefined;
  const lengths = Math.sqrt(dot(both[0], both[0])) * Math.sqrt(dot(both[1], both[1]));
  return lengths === 0 ? undefined : finite(dot(...both) / lengths);
}

export function euclideanDistance(a: Value, b: Value): number | undefined {
  const both = pair(a, b);
  if (both === undefined) return undefined;
  let sum = 0;
  for (let i = 0; i < both[0].length; i++) sum += (both[0][i]! - both[1][i]!) ** 2;
  return finite(Math.sqrt(sum));
}
