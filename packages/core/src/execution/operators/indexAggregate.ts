import { distinctKeys, extremes } from '../../indexes/summaries.ts';
import type { OrderedIndex } from '../../indexes/orderedIndex.ts';
import type { IndexAggregate } from '../../planner/physical.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import type { Operator } from '../runtime.ts';
import { assigned } from './compute.ts';

const lookedAtOnce = 1_024;
const nothing = (): void => undefined;

/** What is known of one group: how many rows, the extremes, and where its first row stands. */
interface Known {
  readonly key: Value;
  readonly count: number;
  readonly min: Value;
  readonly max: Value;
  readonly position: number;
}

export const indexAggregate: Operator<IndexAggregate> = function* (step, { indexOf, watch }, meter) {
  const index = indexOf(step.collection, step.index);
  const groups: Known[] = [];
  for (const group of step.by === undefined ? [everything(step, index)] : keyGroups(step, index)) {
    groups.push(group);
    meter.indexEntriesRead++;
    if (groups.length % lookedAtOnce === 0) watch.look(step);
  }
  // Groups come in the order of their first rows.
  groups.sort((a, b) => a.position - b.position);
  const through = groups.reduce((sum, { count }) => sum + count, 0);
  for (const line of step.inner) meter.inner.set(line, through);
  const rows = groups.map((group): Json => {
    let row: Json = {} as JsonObject;
    if (step.by !== undefined) row = assigned(row, step.by, group.key, nothing);
    for (const { target, aggregate } of step.measures) row = assigned(row, target, group[aggregate], nothing);
    return row;
  });
  yield { rows, positions: rows.map((_, i) => i) };
};

function everything({ range, absent }: IndexAggregate, index: OrderedIndex): Known {
  const { least, greatest } = extremes(index, range);
  const count = index.count(range) + (absent ? index.absent.length : 0);
  return { key: undefined, count, min: least, max: greatest, position: 0 };
}

function* keyGroups({ range, absent }: IndexAggregate, index: OrderedIndex): Generator<Known> {
  const missing = absent ? index.absent : [];
  let counted = false;
  for (const { value, count, first } of distinctKeys(index, range)) {
    const isMissing = value === undefined && missing.length > 0;
    counted ||= isMissing;
    const known = value === null ? undefined : value;
    yield {
      key: value,
      count: count + (isMissing ? missing.length : 0),
      min: known,
      max: known,
      position: isMissing ? Math.min(first.position, missing[0]) : first.position,
    };
  }
  if (missing.length > 0 && !counted) yield { key: undefined, count: missing.length, min: undefined, max: undefined, position: missing[0] };
}
