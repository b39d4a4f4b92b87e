import type { Collection } from './collection.ts';

/** Works while nothing changes in any of some collections. */
export function heldStill<T>(collections: readonly Collection[], work: () => Promise<T>): Promise<T> {
  // Always in the same order, so that two never wait for each other.
  const inOrder = [...new Set(collections)].sort((a, b) => (a.name < b.name ? -1 : 1));
  return inOrder.reduceRight<() => Promise<T>>(
    (inner, { gate }) =>
      () =>
        gate.read(inner),
    work,
  )();
}
