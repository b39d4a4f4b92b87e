import type { PhysicalStep } from '../../planner/physical.ts';
import type { Emitter } from '../../expressions/emitter.ts';
import type { Write } from '../../expressions/slots.ts';
import type { Json } from '../../values/json.ts';
import { numberBytes, objectBytes } from '../../values/size.ts';
import { stillWorking, type Batch } from '../batch.ts';
import { bytesOfMade, ownedBy, type Owned } from '../ownership.ts';
import type { Operator } from '../runtime.ts';
import { compileSegment, type CompiledSegment, type LoopEnd } from './compileSegment.ts';
import { driven } from './drive.ts';
import type { Segment } from './segment.ts';

/** Rows that have left a loop, where they come from, and the bytes of them that are the run's own. */
interface Left {
  rows: Json[];
  count: number;
  /** Undefined where nobody asks for them. */
  positions: number[] | undefined;
  bytes: number;
}

/** Rows become objects where they leave the loop. */
function endOf(step: PhysicalStep, withPlaces: boolean): LoopEnd {
  const owned = ownedBy(step);
  return {
    prepare: 'const { rows: leaving, positions: places } = into; let left = 0;',
    finish: 'into.count = left;',
    emit: ({ emitter }, row, position) => {
      const listed = row.listed(emitter);
      const made = listed.object(emitter);
      emitter.line(`leaving[left++] = ${made};${withPlaces ? ` places.push(${position});` : ''}`);
      if (owned === undefined) return;
      emitter.line(`into.bytes += ${listed.fields === undefined ? `${emitter.constant(owned.row)}(${made})` : emitBytes(emitter, listed.fields, owned)};`); // prettier-ignore
    },
  };
}

/** What a row takes whose fields are known, without going through them. */
function emitBytes(emitter: Emitter, fields: readonly Write[], { made }: Owned): string {
  const parts = fields.map(({ name, value }) => {
    const how = made.get(name);
    const other = how === undefined ? '0' : `${emitter.constant(bytesOfMade[how])}(${value})`;
    return `(typeof ${value} === 'number' ? ((${value} | 0) === ${value} ? 0 : ${heldByNumber}) : ${other})`;
  });
  return [String(objectBytes(fields.length)), ...parts].join(' + ');
}
const heldByNumber = numberBytes(0.5);

const compiled = { with: new WeakMap<Segment, CompiledSegment<Left>>(), without: new WeakMap<Segment, CompiledSegment<Left>>() };

/** The loop whose last step is `step`, compiled once; with or without the positions of what its rows come from. */
export function compiledRows(step: PhysicalStep, segment: Segment, withPlaces: boolean): CompiledSegment<Left> {
  const known = withPlaces ? compiled.with : compiled.without;
  let made = known.get(segment);
  if (made === undefined) known.set(segment, (made = compileSegment<Left>(segment, endOf(step, withPlaces))));
  return made;
}

/** Runs a segment that gives rows: those of the last step of a plan go straight to the result. */
export const rowsOfSegment =
  (segment: Segment): Operator<PhysicalStep> =>
  (step, runtime, meter) => {
    const result = runtime.result?.of === step ? runtime.result : undefined;
    const into: Left = { rows: [], count: 0, positions: result === undefined ? [] : result.positions, bytes: 0 };
    let held = 0;
    const hold = (): void => {
      runtime.meter.hold(meter, into.bytes - held);
      held = into.bytes;
    };
    /** They are held by whoever takes them. */
    const released = (): number => {
      const { bytes } = into;
      into.bytes = 0;
      hold();
      return bytes;
    };
    const left = (): Batch => {
      const { rows, count } = into;
      rows.length = count;
      result?.rows.add(rows);
      into.rows = [];
      return { ...stillWorking, left: count, bytes: released() };
    };
    const given = (): Batch => {
      const { rows, positions } = into;
      into.rows = [];
      into.positions = [];
      return { rows, positions: positions ?? [], bytes: released() };
    };
    // Room that is there is filled faster than a list grows.
    const prepare = (count: number): void => void (into.rows = new Array<Json>(count));
    const taking = result === undefined ? { into, hold, given } : { into, hold, given: left, prepare };
    return driven(step, segment, compiledRows(step, segment, into.positions !== undefined), taking, runtime);
  };
