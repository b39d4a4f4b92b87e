import { compileCondition } from '../../expressions/compile.ts';
import type { ScoredScan } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { placeAt } from '../placing.ts';
import type { Operator } from '../runtime.ts';
import { scoredBy } from '../scoring.ts';

/** So many documents are looked at between two looks at guards and cancel. */
const stretch = 64;

export const scoredScan: Operator<ScoredScan> = function* (step, runtime, meter) {
  const { context, watch, meter: runMeter } = runtime;
  const { documents } = runtime.storeOf(step.collection);
  const scored = scoredBy(step, step.expression, runtime);
  watch.look(step);
  yield stillWorking;
  const tests = step.conditions.map(({ stage, condition }) => ({ stage, holds: compileCondition(condition) }));
  const place = step.target === undefined ? undefined : placeAt(step.target);
  for (const stage of step.inner) meter.inner.set(stage, 0);
  let rows: Json[] = [];
  let positions: number[] = [];
  let given = 0;
  let looked = 0;
  const fitsAt = (position: number): boolean => {
    runMeter.read(meter, 1);
    return tests.every(({ stage, holds }, at) => {
      meter.lookedAt[at] = (meter.lookedAt[at] ?? 0) + 1;
      if (!holds(documents[position]!, context)) return false;
      meter.inner.set(stage, (meter.inner.get(stage) ?? 0) + 1);
      return true;
    });
  };
  // A walk has to know on its way what is wanted; whatever it gives has been looked at by then.
  const isWalked = step.effort !== undefined && tests.length > 0;
  for (const [position, score] of step.count === 0 ? [] : scored.bestFirst(isWalked ? fitsAt : undefined)) {
    if (looked % stretch === 0) {
      watch.look(step);
      if (rows.length > 0) yield { rows, positions };
      [rows, positions] = [[], []];
      if (watch.mayRead(step, 1) === 0) break;
    }
    looked++;
    if (!isWalked && !fitsAt(position)) continue;
    const document = documents[position]!;
    rows.push(place === undefined ? document : place(document, score));
    positions.push(position);
    if (++given === step.count) break;
  }
  meter.indexEntriesRead += scored.entries;
  meter.hadEnough = given === step.count;
  if (rows.length > 0) yield { rows, positions };
};
