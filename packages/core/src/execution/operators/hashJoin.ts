import type { HashJoin } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { textBytes } from '../../values/size.ts';
import { stillWorking } from '../batch.ts';
import { joinedWith, keyReader, type TableKey } from '../joining.ts';
import { makesRows, ownedBytes } from '../ownership.ts';
import type { Operator } from '../runtime.ts';

/** What the first partner of a key holds in the table, the second, and each further one; and a reference to a partner. */
const heldByFirst = 60;
const heldBySecond = 72;
const heldByFurther = 10;
const heldPerPartner = 10;

export const hashJoin: Operator<HashJoin> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { match } = step;
  const partners: Json[] = [];
  /** Numbers of partners by key; a lone number where there is one. */
  const table = new Map<TableKey, number | number[]>();
  const rightKeys = keyReader(match.rightKeys, match.rightIsList);
  const bytesOf = ownedBytes(step.partners);
  const hasMadeKeys = match.rightKeys.length > 1;
  for (const { rows } of runtime.open(step.partners)) {
    let bytes = 0;
    for (const partner of rows) {
      const number = partners.push(partner) - 1;
      bytes += heldPerPartner + bytesOf(partner);
      for (const key of rightKeys(partner, context)) {
        const there = table.get(key);
        if (there === undefined) {
          table.set(key, number);
          bytes += heldByFirst + (hasMadeKeys ? textBytes(String(key)) : 0);
        } else if (typeof there === 'number') {
          table.set(key, [there, number]);
          bytes += heldBySecond;
        } else {
          there.push(number);
          bytes += heldByFurther;
        }
      }
    }
    runMeter.hold(meter, bytes);
    watch.look(step);
    yield stillWorking;
  }
  const leftKeys = keyReader(match.leftKeys, match.leftIsList);
  const none: readonly number[] = [];
  const lone = [0];
  const under = (key: TableKey): readonly number[] => {
    const there = table.get(key);
    if (typeof there !== 'number') return there ?? none;
    lone[0] = there;
    return lone;
  };
  const candidates = (row: Json): readonly number[] => {
    const keys = leftKeys(row, context);
    if (keys.length < 2) return keys.length === 0 ? none : under(keys[0]!);
    // A partner that is met by several elements is one partner, and they stand in insertion order.
    const numbers = new Set<number>();
    for (const key of keys) for (const number of under(key)) numbers.add(number);
    return [...numbers].sort((a, b) => a - b);
  };
  yield* joinedWith(step, runtime, meter, { candidates, allowed: (wanted) => wanted, partner: (number) => partners[number] });
  // Partners that the run has made go on in the rows that came of them.
  if (!makesRows(step.partners)) runMeter.hold(meter, -meter.held);
};
