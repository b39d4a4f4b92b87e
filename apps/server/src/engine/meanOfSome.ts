import type { Collection, JsonObject } from '@zesty-sieve/core';

/** The mean of what is weighed of some documents, so many at most, spread over all. 0 where there are none. */
export function meanOfSome({ documents }: Collection['store'], most: number, weigh: (document: JsonObject) => number): number {
  const step = Math.max(1, Math.floor(documents.length / most));
  let looked = 0;
  let sum = 0;
  for (let position = 0; position < documents.length; position += step) {
    const document = documents[position];
    if (document === undefined) continue;
    looked++;
    sum += weigh(document);
  }
  return looked === 0 ? 0 : sum / looked;
}
