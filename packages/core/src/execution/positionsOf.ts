import { kindOf } from '../indexes/kinds.ts';
import type { IndexPart } from '../planner/scans.ts';
import { orderedIndexOf } from './orderedIndexOf.ts';
import type { Runtime } from './runtime.ts';

/** The positions that an index of any kind finds, ascending; more than once each where a document has several entries. */
export function positionsOf(runtime: Runtime, collection: string, part: IndexPart): Uint32Array {
  return Uint32Array.from(foundBy(runtime, collection, part)).sort();
}

function foundBy(runtime: Runtime, collection: string, part: IndexPart): ArrayLike<number> {
  if ('ranges' in part) {
    const index = orderedIndexOf(runtime, collection, part.index);
    return part.ranges.flatMap((range) => index.positionsOf(range));
  }
  const index = runtime.indexOf(collection, part.index);
  const { access } = kindOf(index.definition);
  if (access.by !== 'positions') throw new Error(`a plan asks ${part.index} for positions, which it does not give`);
  return access.find(index, part.lookup);
}
