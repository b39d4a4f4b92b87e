import { compilePair } from '../expressions/compile.ts';
import type { IndexJoin } from '../planner/physical.ts';
import type { Json } from '../values/json.ts';
import type { Batch, Rows } from './batch.ts';
import type { StepMeter } from './meter.ts';
import { placeAt } from './placing.ts';
import { pulled, type Runtime } from './runtime.ts';

/** Where a join finds the partners of a row. */
export interface Meeting {
  /** The numbers of those that a row may meet, ascending, each once. */
  readonly candidates: (row: Json) => ArrayLike<number>;
  /** How many of so many may be looked at now; 0 where a bounded run ends. Counts them. */
  readonly allowed: (wanted: number) => number;
  readonly partner: (number: number) => Json | undefined;
}

/** Partners that are looked at, or rows that are given out, before others get their turn. */
const atOnce = 4_096;

/** Joins the rows that come with the partners that they meet; counts how many met none, one or several. */
export function* joinedWith(step: IndexJoin, runtime: Runtime, meter: StepMeter, meeting: Meeting): Rows {
  const { context, watch } = runtime;
  const { match } = step;
  const { mode } = match;
  const place = placeAt(match.target, match.used);
  const fits = match.residual && compilePair(match.residual, match.partner);
  const counts = (meter.matches = { none: 0, one: 0, several: 0 });
  const most = Math.min(runtime.batchRows, atOnce);
  let rows: Json[] = [];
  let positions: number[] = [];
  const taken = (): Batch => {
    const batch = { rows, positions };
    rows = [];
    positions = [];
    return batch;
  };
  let looked = 0;
  for (const batch of pulled(step.input, runtime, meter)) {
    for (let i = 0; i < batch.rows.length; i++) {
      const row = batch.rows[i]!;
      const position = batch.positions[i]!;
      const found: Json[] = [];
      const numbers = meeting.candidates(row);
      for (let at = 0; at < numbers.length;) {
        const allowed = meeting.allowed(Math.min(numbers.length - at, atOnce));
        if (allowed === 0) {
          yield taken();
          return;
        }
        for (const end = at + allowed; at < end; at++) {
          const partner = meeting.partner(numbers[at]!);
          if (partner !== undefined && (fits === undefined || fits(row, partner, context))) found.push(partner);
        }
        looked += allowed;
        if (looked < atOnce) continue;
        looked = 0;
        watch.look(step);
        yield taken();
      }
      if (found.length === 0) counts.none++;
      else if (found.length === 1) counts.one++;
      else counts.several++;
      if (mode === 'gatherJoin' || (found.length === 0 && mode === 'leftJoin')) {
        rows.push(place(row, mode === 'gatherJoin' ? found : undefined));
        positions.push(position);
      } else {
        for (const partner of found) {
          rows.push(place(row, partner));
          positions.push(position);
          if (rows.length < most) continue;
          watch.look(step);
          yield taken();
        }
      }
      if (rows.length >= most) yield taken();
    }
    watch.look(step);
    yield taken();
  }
}
