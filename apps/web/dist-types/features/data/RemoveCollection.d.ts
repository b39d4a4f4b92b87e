import type { CollectionInfo } from '@zesty-sieve/contract';
/** Removes a collection, once its name has been typed: it cannot be taken back. */
export declare function RemoveCollection({
  collection,
  onClose,
  onRemoved,
}: {
  collection: CollectionInfo | null;
  onClose: () => void;
  onRemoved: () => void;
}): import('react').JSX.Element | null;
