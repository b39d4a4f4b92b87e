import type { FusedScan } from '../../planner/physical.ts';
import { stillWorking } from '../batch.ts';
import { fused } from '../fusing.ts';
import { placeAt } from '../placing.ts';
import type { Operator } from '../runtime.ts';
import { scoredBy } from '../scoring.ts';
import { Fitting } from './fitting.ts';

/** So many documents are looked at between two looks at guards and cancel. */
const stretch = 64;
/** What a place in a ranking takes. */
const heldPerPlace = 56;

export const fusedScan: Operator<FusedScan> = function* (step, runtime, meter) {
  const { watch, meter: runMeter } = runtime;
  const { collection, rankings, depth, count, target } = step;
  const { documents } = runtime.storeOf(collection);
  const fitting = new Fitting(step, runtime, meter);
  const lists: (readonly [number, number])[][] = [];
  const hold = (last: readonly unknown[]): void => {
    const places = lists.reduce((sum, list) => sum + list.length, last.length);
    runMeter.hold(meter, fitting.held + places * heldPerPlace - meter.held);
  };
  for (const { index, expression, effort } of count === 0 ? [] : rankings) {
    watch.look(step);
    yield stillWorking;
    const scored = scoredBy({ collection, index, effort }, expression, runtime);
    const isWalked = effort !== undefined && fitting.isAsked;
    const list: (readonly [number, number])[] = [];
    let looked = 0;
    for (const [position] of scored.bestFirst(isWalked ? fitting.fits : undefined)) {
      if (looked++ % stretch === 0) {
        hold(list);
        watch.look(step);
        yield stillWorking;
        if (watch.mayRead(step, 1) === 0) break;
      }
      if (!isWalked && !fitting.fits(position)) continue;
      list.push([position, position]);
      if (list.length === depth) break;
    }
    meter.indexEntriesRead += scored.entries;
    lists.push(list);
    hold([]);
  }
  const chosen = fused(lists, rankings).sort((a, b) => b[1] - a[1] || a[0] - b[0]).slice(0, count); // prettier-ignore
  const place = target === undefined ? undefined : placeAt(target);
  const rows = chosen.map(([position, score]) => (place === undefined ? documents[position]! : place(documents[position]!, score)));
  runMeter.hold(meter, -meter.held);
  yield { rows, positions: chosen.map(([position]) => position) };
};
