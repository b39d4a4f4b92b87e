import { OrderedIndex } from '../indexes/ordered/orderedIndex.ts';
import type { Runtime } from './runtime.ts';

/** An index whose order or ranges a plan goes by; the planner takes no other kind for that. */
export function orderedIndexOf({ indexOf }: Runtime, collection: string, name: string): OrderedIndex {
  const index = indexOf(collection, name);
  if (!(index instanceof OrderedIndex)) throw new Error(`a plan goes by the order of ${name}, which has none`);
  return index;
}
