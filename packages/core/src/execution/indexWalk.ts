import type { OrderedIndex } from '../indexes/ordered/orderedIndex.ts';
import type { IndexEntry, IndexRange } from '../indexes/ordered/sortedEntries.ts';
import type { OrderedWalk } from '../planner/physical.ts';
import type { Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';

/**
 * The positions of a walk in its order, in groups that tie in it; each group's positions ascend.
 * @param skip so many are passed over first; not of merged ranges
 */
export function* positionsInOrder(index: OrderedIndex, walk: OrderedWalk, skip = 0): Generator<readonly number[]> {
  const { end, backwards, together, empties } = walk;
  let left = skip;
  if (empties?.place === 'first') {
    const positions = emptyPositions(index, walk);
    yield positions.slice(left);
    left = Math.max(0, left - positions.length);
  }
  if (together === 'merged') {
    for (const group of mergedGroups(index, walk)) yield group.map(({ position }) => position);
  } else {
    for (const { range, passed } of rangesAfter(index, walk, left)) yield* index.groups(range, end, backwards, passed);
    left = Math.max(0, left - walk.ranges.reduce((sum, range) => sum + index.count(range), 0));
  }
  if (empties?.place === 'last') yield emptyPositions(index, walk).slice(left);
}

/** The entries of a walk without empties, as `positionsInOrder` has their positions. */
export function* entriesInOrder(index: OrderedIndex, walk: OrderedWalk, skip = 0): Generator<readonly IndexEntry[]> {
  const { end, backwards, together } = walk;
  if (together === 'merged') yield* mergedGroups(index, walk);
  else for (const { range, passed } of rangesAfter(index, walk, skip)) yield* index.entryGroups(range, end, backwards, passed);
}

/** The ranges of a walk in turn that are not passed over whole, and how many entries of each are. */
function* rangesAfter(
  index: OrderedIndex,
  { ranges, backwards }: OrderedWalk,
  skip: number,
): Generator<{ readonly range: IndexRange; readonly passed: number }> {
  let left = skip;
  for (const range of backwards ? ranges.toReversed() : ranges) {
    const count = left === 0 ? Infinity : index.count(range);
    if (left < count) yield { range, passed: left };
    left = Math.max(0, left - count);
  }
}

function emptyPositions(index: OrderedIndex, { empties, end, backwards, nulls }: OrderedWalk): readonly number[] {
  return empties === undefined ? [] : index.positionsWithout(empties.range, end, backwards, nulls, empties.withAbsent);
}

interface Head {
  readonly group: readonly IndexEntry[];
  readonly rest: Generator<readonly IndexEntry[]>;
}

/** The least group of all ranges each time, put together with those of other ranges that tie with it. */
function* mergedGroups(index: OrderedIndex, { ranges, start, end, backwards }: OrderedWalk): Generator<readonly IndexEntry[]> {
  const signs = index.definition.keys.map(({ direction }) => ((direction === 'desc') !== backwards ? -1 : 1));
  const compare = (a: readonly Value[], b: readonly Value[]): number => {
    for (let k = start; k < end; k++) {
      const order = compareValues(a[k] ?? null, b[k] ?? null);
      if (order !== 0) return order * signs[k]!;
    }
    return 0;
  };
  /** Falling, so that the least is taken from the end. */
  const heads: Head[] = [];
  const put = (rest: Head['rest']): void => {
    const next = rest.next();
    if (next.done) return;
    const group = next.value;
    let low = 0;
    let high = heads.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (compare(heads[middle]!.group[0]!.keys, group[0]!.keys) > 0) low = middle + 1;
      else high = middle;
    }
    heads.splice(low, 0, { group, rest });
  };
  for (const range of ranges) put(index.entryGroups(range, end, backwards));
  for (let least = heads.pop(); least !== undefined; least = heads.pop()) {
    const tied = [least];
    for (let next = heads.at(-1); next && compare(next.group[0]!.keys, least.group[0]!.keys) === 0; next = heads.at(-1)) {
      tied.push(next);
      heads.pop();
    }
    yield tied.length === 1 ? least.group : tied.flatMap(({ group }) => group).sort((a, b) => a.position - b.position);
    for (const { rest } of tied) put(rest);
  }
}
