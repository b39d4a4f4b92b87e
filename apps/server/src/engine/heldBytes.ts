import { estimateBytes, type Collection } from '@zesty-sieve/core';

/** Documents that are weighed to tell what all take. */
const weighed = 200;
/** What a document takes beside itself: its place, and its entry by identity. */
const perDocument = 100;

/** About what a collection takes, in bytes: some of its documents are weighed, and its indexes tell what they take. */
export function heldBy({ store, indexList }: Collection): number {
  const { documents } = store;
  const step = Math.max(1, Math.floor(documents.length / weighed));
  let looked = 0;
  let bytes = 0;
  for (let position = 0; position < documents.length; position += step) {
    const document = documents[position];
    if (document === undefined) continue;
    looked++;
    bytes += estimateBytes(document) + perDocument;
  }
  const mean = looked === 0 ? 0 : bytes / looked;
  return mean * store.count + indexList.reduce((sum, index) => sum + index.bytes, 0);
}
