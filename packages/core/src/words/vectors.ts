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
  return cosinesWith(b)(a);
}

/** The same for many with one: what is known of that one is worked out once. */
export function cosinesWith(value: Value): (other: Value) => number | undefined {
  const vector = asVector(value);
  if (vector === undefined) return () => undefined;
  const length = Math.sqrt(dot(vector, vector));
  return (other) => {
    if (!Array.isArray(other) || other.length !== vector.length) return undefined;
    let own = 0;
    let both = 0;
    for (let i = 0; i < vector.length; i++) {
      const one = (other as readonly Value[])[i];
      if (typeof one !== 'number') return undefined;
      own += one * one;
      both += one * vector[i]!;
    }
    const lengths = Math.sqrt(own) * length;
    return lengths === 0 ? undefined : finite(both / lengths);
  };
}

export function euclideanDistance(a: Value, b: Value): number | undefined {
  const both = pair(a, b);
  if (both === undefined) return undefined;
  let sum = 0;
  for (let i = 0; i < both[0].length; i++) sum += (both[0][i]! - both[1][i]!) ** 2;
  return finite(Math.sqrt(sum));
}
