import { identityNames } from '@zesty-sieve/core/language';
import { valueAt } from './columns.ts';

/** Reads the identities of a collection's documents. @param path as the collection has it: `@.id`, or `@["hut no"]` */
export function identityReader(path: string): (document: unknown) => unknown {
  const names = identityNames(path);
  return (document) => valueAt(document, names);
}

/** A copy of a document without its identity, to be given another. */
export function withoutIdentity(document: unknown, path: string): unknown {
  const names = identityNames(path);
  const copied = structuredClone(document);
  const holder = valueAt(copied, names.slice(0, -1));
  if (typeof holder === 'object' && holder !== null) delete (holder as Record<string, unknown>)[names.at(-1) ?? ''];
  return copied;
}
