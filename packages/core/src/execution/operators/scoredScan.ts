import type { ScoredScan } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking } from '../batch.ts';
import { placeAt } from '../placing.ts';
import type { Operator } from '../runtime.ts';
import { scoredBy } from '../scoring.ts';
import { Fitting } from './fitting.ts';

/** So many documents are looked at between two looks at guards and cancel. */
const stretch = 64;

export const scoredScan: Operator<ScoredScan> = function* (step, runtime, meter) {
  const { watch } = runtime;
  const { documents } = runtime.storeOf(step.collection);
  const scored = scoredBy(step, step.expression, runtime);
  watch.look(step);
  yield stillWorking;
  const fitting = new Fitting(step, runtime, meter);
  const place = step.target === undefined ? undefined : placeAt(step.target);
  let rows: Json[] = [];
  let positions: number[] = [];
  let given = 0;
  let looked = 0;
  // A walk has to know on its way what is wanted; whatever it gives has been looked at by then.
  const isWalked = step.effort !== undefined && fitting.isAsked;
  for (const [position, score] of step.count === 0 ? [] : scored.bestFirst(isWalked ? fitting.fits : undefined)) {
    if (looked % stretch === 0) {
      watch.look(step);
      if (rows.length > 0) yield { rows, positions };
      [rows, positions] = [[], []];
      if (watch.mayRead(step, 1) === 0) break;
    }
    looked++;
    if (!isWalked && !fitting.fits(position)) continue;
    const document = documents[position]!;
    rows.push(place === undefined ? document : place(document, score));
    positions.push(position);
    if (++given === step.count) break;
  }
  meter.indexEntriesRead += scored.entries;
  meter.hadEnough = given === step.count;
  if (rows.length > 0) yield { rows, positions };
};
