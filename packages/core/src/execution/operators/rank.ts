import { compileValue } from '../../expressions/compile.ts';
import type { Rank } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { combinedKeyOf, plainKey, type GroupKey } from '../groupKeys.ts';
import { heldByKey, heldPerRow, OrderReader } from '../orderKeys.ts';
import { ownedBytes } from '../ownership.ts';
import { placeAt } from '../placing.ts';
import { pulled, type Operator } from '../runtime.ts';

const batchSize = 2_048;

interface Candidate {
  readonly row: Json;
  readonly position: number;
  /** Its place among the rows that came. */
  readonly arrival: number;
  readonly keys: readonly Value[];
  rank: number;
}

interface Partition {
  candidates: Candidate[];
  /** Once so many have gathered, those of too great a rank are let go. */
  cutAt: number;
}

export const rank: Operator<Rank> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const reader = new OrderReader(step.keys);
  const computed = step.keys.map(({ expression }) => expression.kind !== 'path');
  const partitionKeys = step.partition.map(compileValue);
  const place = placeAt(step.target);
  const bytesOf = ownedBytes(step.input);
  const partitions = new Map<GroupKey, Partition>();
  const limit = step.atMost;
  const firstCut = limit === undefined ? Infinity : limit * 2 + 32;
  let perRow = 0;
  let held = 0;
  let arrival = 0;

  const before = (a: Candidate, b: Candidate): number => {
    for (let k = 0; k < a.keys.length; k++) {
      const order = reader.compare(k, a.keys[k], b.keys[k]);
      if (order !== 0) return order;
    }
    return 0;
  };
  /** Ranks the candidates of a partition, best first; ties by insertion order. */
  const ranked = (partition: Partition): Candidate[] => {
    const sorted = [...partition.candidates].sort((a, b) => before(a, b) || a.position - b.position || a.arrival - b.arrival);
    sorted.forEach((one, i) => {
      const ties = i > 0 && before(sorted[i - 1], one) === 0;
      if (step.ranking === 'rowNumber') one.rank = i + 1;
      else if (ties) one.rank = sorted[i - 1].rank;
      else one.rank = step.ranking === 'rank' || i === 0 ? i + 1 : sorted[i - 1].rank + 1;
    });
    return sorted;
  };
  const cut = (partition: Partition): void => {
    const kept = ranked(partition).filter((one) => one.rank <= (limit ?? Infinity));
    held -= partition.candidates.length - kept.length;
    partition.candidates = kept;
    partition.cutAt = Math.max(firstCut, kept.length * 2);
  };

  for (const batch of pulled(step.input, runtime, meter)) {
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i];
      const values = partitionKeys.map((evaluate) => evaluate(row, context));
      const key = values.length === 1 ? plainKey(values[0]) : combinedKeyOf(values);
      let partition = partitions.get(key);
      if (partition === undefined) partitions.set(key, (partition = { candidates: [], cutAt: firstCut }));
      const keys = reader.evaluators.map((evaluate) => evaluate(row, context));
      const size = keys.reduce<number>((sum, value, k) => sum + heldByKey(value, computed[k]), heldPerRow + 64 + bytesOf(row));
      // Rows let go are accounted for at the size of the common row.
      perRow = perRow === 0 ? size : perRow * 0.999 + size * 0.001;
      held++;
      partition.candidates.push({ row, position: batch.positions[i], arrival: arrival++, keys, rank: 0 });
      if (partition.candidates.length >= partition.cutAt) cut(partition);
    }
    runMeter.hold(meter, held * perRow - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  const all: Candidate[] = [];
  for (const partition of partitions.values()) {
    for (const one of ranked(partition)) if (limit === undefined || one.rank <= limit) all.push(one);
    watch.look(step);
    yield stillWorking;
  }
  all.sort((a, b) => a.arrival - b.arrival);
  for (let from = 0; from < all.length; from += batchSize) {
    const part = all.slice(from, from + batchSize);
    yield { rows: part.map((one) => place(one.row, one.rank)), positions: part.map((one) => one.position) };
  }
  runMeter.hold(meter, -meter.held);
};
