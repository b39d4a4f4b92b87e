import { estimateBytes, type Collection } from '@zesty-sieve/core';
import { meanOfSome } from './meanOfSome.ts';

/** Documents that are weighed to tell what all take. */
const weighed = 200;
/** What a document takes beside itself: its place, and its entry by identity. */
const perDocument = 100;

/** About what a collection takes, in bytes: some of its documents are weighed, and its indexes tell what they take. */
export function heldBy({ store, indexList }: Collection): number {
  const mean = meanOfSome(store, weighed, (document) => estimateBytes(document) + perDocument);
  return mean * store.count + indexList.reduce((sum, index) => sum + index.bytes, 0);
}
