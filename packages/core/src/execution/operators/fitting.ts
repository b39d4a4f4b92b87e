import { compileCondition } from '../../expressions/compile.ts';
import type { FusedScan, ScoredScan } from '../../planner/physical.ts';
import type { StepMeter } from '../meter.ts';
import type { Runtime } from '../runtime.ts';

/** What a document takes whose answer is remembered. */
const heldPerKnown = 40;

/** Which documents meet the conditions of a scan by scores: each is read, and counted, once, though several rankings may have it. */
export class Fitting {
  /** Whether anything is asked of documents beside their scores. */
  readonly isAsked: boolean;
  readonly fits: (position: number) => boolean;
  private readonly known = new Map<number, boolean>();

  constructor(
    { collection, conditions, inner, kind }: ScoredScan | FusedScan,
    { context, meter: runMeter, storeOf }: Runtime,
    meter: StepMeter,
  ) {
    const { documents } = storeOf(collection);
    const tests = conditions.map(({ stage, condition }) => ({ stage, holds: compileCondition(condition) }));
    for (const stage of inner) meter.inner.set(stage, 0);
    const look = (position: number): boolean => {
      runMeter.read(meter, 1);
      return tests.every(({ stage, holds }, at) => {
        meter.lookedAt[at] = (meter.lookedAt[at] ?? 0) + 1;
        if (!holds(documents[position]!, context)) return false;
        meter.inner.set(stage, (meter.inner.get(stage) ?? 0) + 1);
        return true;
      });
    };
    // One ranking has each document once.
    const remembers = kind === 'fusedScan';
    this.isAsked = tests.length > 0;
    this.fits = remembers ? remembered(look, this.known) : look;
  }
  /** Bytes. */
  get held(): number {
    return this.known.size * heldPerKnown;
  }
}

function remembered(look: (position: number) => boolean, known: Map<number, boolean>): (position: number) => boolean {
  return (position) => {
    let does = known.get(position);
    if (does === undefined) known.set(position, (does = look(position)));
    return does;
  };
}
