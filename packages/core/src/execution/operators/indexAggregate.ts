import { extremes } from '../../indexes/ordered/summaries.ts';
import type { OrderedIndex } from '../../indexes/ordered/orderedIndex.ts';
import type { IndexAggregate } from '../../planner/physical.ts';
import type { Json, JsonObject, Value } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import type { Operator } from '../runtime.ts';
import { assigned } from '../placing.ts';
import { orderedIndexOf } from '../orderedIndexOf.ts';

const lookedAtOnce = 1_024;
const nothing = (): void => undefined;

/** What is known of one group: how many rows, the extremes, and where its first row stands. */
interface Known {
  readonly key: Value;
  readonly count: number;
  readonly min: Value;
  readonly max: Value;
  /** Different values of the field that is measured. */
  readonly count_distinct: number;
  readonly position: number;
}

/** What a group holds, its key being the index's own. */
const heldPerGroup = 96;
const rowsAtOnce = 2_048;

export const indexAggregate: Operator<IndexAggregate> = function* (step, runtime, meter) {
  const { watch, meter: runMeter } = runtime;
  const index = orderedIndexOf(runtime, step.collection, step.index);
  const groups: Known[] = [];
  let looked = 0;
  for (const group of step.by === undefined ? everything(step, index) : keyGroups(step, index)) {
    meter.indexEntriesRead++;
    looked++;
    if (group !== undefined) groups.push(group);
    if (looked % lookedAtOnce !== 0) continue;
    runMeter.hold(meter, groups.length * heldPerGroup - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  // Groups come in the order of their first rows.
  groups.sort((a, b) => a.position - b.position);
  const through = groups.reduce((sum, { count }) => sum + count, 0);
  for (const stage of step.inner) meter.inner.set(stage, through);
  for (let from = 0; from < groups.length; from += rowsAtOnce) {
    const part = groups.slice(from, from + rowsAtOnce);
    yield { rows: part.map((group) => rowOf(step, group)), positions: part.map((_, i) => from + i) };
  }
  runMeter.hold(meter, -meter.held);
};

function rowOf({ by, measures }: IndexAggregate, group: Known): Json {
  let row: Json = {} as JsonObject;
  if (by !== undefined) row = assigned(row, by, group.key, nothing);
  for (const { target, aggregate } of measures) row = assigned(row, target, group[aggregate], nothing);
  return row;
}

/** The one group of everything, after an empty step for each different value where those are counted. */
function* everything({ range, absent, measures }: IndexAggregate, index: OrderedIndex): Generator<Known | undefined> {
  const { least, greatest } = extremes(index, range);
  let different = 0;
  if (measures.some(({ aggregate }) => aggregate === 'count_distinct')) {
    for (const { value } of index.runs(range)) {
      if (value !== undefined && value !== null) different++;
      yield undefined;
    }
  }
  const count = index.count(range) + (absent ? index.absent.length : 0);
  yield { key: undefined, count, min: least, max: greatest, count_distinct: different, position: 0 };
}

function* keyGroups({ range, absent }: IndexAggregate, index: OrderedIndex): Generator<Known> {
  const missing = absent ? index.absent : [];
  let counted = false;
  const nothing = { key: undefined, min: undefined, max: undefined, count_distinct: 0 };
  for (const { value, count, first } of index.runs(range)) {
    const isMissing = value === undefined && missing.length > 0;
    counted ||= isMissing;
    const known = value === null ? undefined : value;
    yield {
      key: value,
      count: count + (isMissing ? missing.length : 0),
      min: known,
      max: known,
      count_distinct: known === undefined ? 0 : 1,
      position: isMissing ? Math.min(first, missing[0]!) : first,
    };
  }
  if (missing.length > 0 && !counted) yield { ...nothing, count: missing.length, position: missing[0]! };
}
