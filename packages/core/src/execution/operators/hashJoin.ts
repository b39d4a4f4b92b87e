import type { HashJoin } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { Joiner, keyReader, type TableKey } from '../joining.ts';
import { ownedBytes } from '../ownership.ts';
import { pulled, type Operator } from '../runtime.ts';

const largestBatch = 4_096;
/** What an entry of the table holds: a slot, a key's reference and a partner's number. */
const heldPerEntry = 40;

export const hashJoin: Operator<HashJoin> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { match } = step;
  const partners: Json[] = [];
  /** Numbers of partners by key; a lone number where there is one. */
  const table = new Map<TableKey, number | number[]>();
  const rightKeys = keyReader(match.rightKeys, match.rightIsList);
  const bytesOf = ownedBytes(step.partners);
  for (const { rows } of runtime.open(step.partners)) {
    let bytes = 0;
    for (const partner of rows) {
      const number = partners.push(partner) - 1;
      bytes += 8 + bytesOf(partner);
      for (const key of rightKeys(partner, context)) {
        bytes += heldPerEntry;
        const there = table.get(key);
        if (there === undefined) table.set(key, number);
        else if (typeof there === 'number') table.set(key, [there, number]);
        else there.push(number);
      }
    }
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  const leftKeys = keyReader(match.leftKeys, match.leftIsList);
  const joiner = new Joiner(match, meter);
  const { fits } = joiner;
  const found: Json[] = [];
  for (const batch of pulled(step.input, runtime, meter)) {
    let rows: Json[] = [];
    let positions: number[] = [];
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i];
      const keys = leftKeys(row, context);
      found.length = 0;
      const take = (number: number): void => {
        const partner = partners[number];
        if (fits === undefined || fits(row, partner, context)) found.push(partner);
      };
      if (keys.length === 1) {
        const there = table.get(keys[0]);
        if (typeof there === 'number') take(there);
        else if (there !== undefined) for (const number of there) take(number);
      } else if (keys.length > 1) {
        // A partner that is met by several elements is one partner, and they stand in insertion order.
        const numbers = new Set<number>();
        for (const key of keys) {
          const there = table.get(key);
          if (typeof there === 'number') numbers.add(there);
          else if (there !== undefined) for (const number of there) numbers.add(number);
        }
        for (const number of [...numbers].sort((a, b) => a - b)) take(number);
      }
      joiner.give(row, batch.positions[i], found, rows, positions);
      if (rows.length >= largestBatch) {
        watch.look(step);
        yield { rows, positions };
        rows = [];
        positions = [];
      }
    }
    watch.look(step);
    yield { rows, positions };
  }
  runMeter.hold(meter, -meter.held);
};
