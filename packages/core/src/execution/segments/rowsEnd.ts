import type { PhysicalStep } from '../../planner/physical.ts';
import type { Emitter } from '../../expressions/emitter.ts';
import type { Write } from '../../expressions/slots.ts';
import type { Json } from '../../values/json.ts';
import { estimateBytes, numberBytes, objectBytes, shellBytes } from '../../values/size.ts';
import type { Batch } from '../batch.ts';
import { ownedBy, type Owned } from '../ownership.ts';
import type { Operator } from '../runtime.ts';
import { compileSegment, type CompiledSegment, type LoopEnd } from './compileSegment.ts';
import { driven } from './drive.ts';
import type { Segment } from './segment.ts';

/** Rows that have left a loop, where they come from, and the bytes of them that are the run's own. */
interface Left {
  rows: Json[];
  positions: number[];
  bytes: number;
}

/** Rows become objects where they leave the loop. */
function endOf(step: PhysicalStep): LoopEnd {
  const owned = ownedBy(step);
  return {
    prepare: 'const { rows: leaving, positions: places } = into;',
    emit: ({ emitter }, row, position) => {
      const listed = row.listed(emitter);
      const made = listed.object(emitter);
      emitter.line(`leaving.push(${made}); places.push(${position});`);
      if (owned === undefined) return;
      emitter.line(`into.bytes += ${listed.fields === undefined ? `${emitter.constant(owned.row)}(${made})` : emitBytes(emitter, listed.fields, owned)};`); // prettier-ignore
    },
  };
}

/** What a row takes whose fields are known, without going through them. */
function emitBytes(emitter: Emitter, fields: readonly Write[], { made }: Owned): string {
  const parts = fields.map(({ name, value }) => {
    const how = made.get(name);
    const other = how === undefined ? '0' : `${emitter.constant(how === 'whole' ? estimateBytes : shellBytes)}(${value})`;
    return `(typeof ${value} === 'number' ? ((${value} | 0) === ${value} ? 0 : ${heldByNumber}) : ${other})`;
  });
  return [String(objectBytes(fields.length)), ...parts].join(' + ');
}
const heldByNumber = numberBytes(0.5);

const compiled = new WeakMap<PhysicalStep, CompiledSegment<Left>>();

/** The loop whose last step is `step`, compiled once. */
export function compiledRows(step: PhysicalStep, segment: Segment): CompiledSegment<Left> {
  let made = compiled.get(step);
  if (made === undefined) compiled.set(step, (made = compileSegment<Left>(segment, endOf(step))));
  return made;
}

/** Runs a segment that gives rows. */
export const rowsOfSegment =
  (segment: Segment): Operator<PhysicalStep> =>
  (step, runtime, meter) => {
    const into: Left = { rows: [], positions: [], bytes: 0 };
    let held = 0;
    const hold = (): void => {
      runtime.meter.hold(meter, into.bytes - held);
      held = into.bytes;
    };
    const given = (): Batch => {
      const { rows, positions, bytes } = into;
      Object.assign(into, { rows: [], positions: [], bytes: 0 });
      // They are held by whoever takes them.
      hold();
      return { rows, positions, bytes };
    };
    return driven(step, segment, compiledRows(step, segment), { into, hold, given }, runtime);
  };
