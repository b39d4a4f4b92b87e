import { emitCondition, emitValue } from '../../../expressions/emit.ts';
import type { Atom } from '../../../expressions/emitter.ts';
import type { Slots } from '../../../expressions/slots.ts';
import type { HashJoin, JoinMatch } from '../../../planner/physical.ts';
import { isPlainOfObjects } from '../../../values/fields.ts';
import { variablesOf, type Loop } from '../loop.ts';
import type { RowStep } from '../rowStep.ts';
import { emitWrite } from '../writing.ts';

/** Goes through the partners that a table has for a row: whether there is a further one, and what takes it. */
interface Walk {
  readonly isThere: string;
  readonly take: (partner: Atom) => void;
  /** What gives all of them as a list, with `length`; where they lie side by side. */
  readonly whole?: { readonly list: string; readonly length: string };
}

/** A loop over a row's partners; how many of them it met is counted. */
export const hashJoin: RowStep<HashJoin> = {
  multiplies: true,
  emit: (loop, { match }, row, body, table) => {
    const { emitter } = loop;
    const counters = { none: loop.counter(), one: loop.counter(), several: loop.counter() };
    const placed = (partner: Atom): Slots => {
      const kept = match.used?.every(isPlainOfObjects) && match.target.length === 1 ? row.only(match.used) : row;
      return emitWrite(loop, kept, match.target, partner);
    };
    const met = emitter.variable('0');
    emitters[match.mode](loop, { match, row, walk: emitWalk(loop, match, row, table), met }, (partner) => body(placed(partner)));
    emitter.line(`if (${met} < 1) ${counters.none}++; else if (${met} === 1) ${counters.one}++; else ${counters.several}++;`);
    const places = { none: loop.placeOf(counters.none), one: loop.placeOf(counters.one), several: loop.placeOf(counters.several) };
    return (counts, meter) => {
      meter.matches = { none: counts[places.none]!, one: counts[places.one]!, several: counts[places.several]! };
    };
  },
};

function emitWalk(loop: Loop, { leftKeys, leftIsList }: JoinMatch, row: Slots, table: Atom): Walk {
  const { emitter } = loop;
  const keys = leftKeys.map((key) => emitValue(emitter, key, variablesOf(row)));
  if (leftIsList) {
    const list = emitter.variable(`${table}.partnersOfAny(${keys.join(', ')})`);
    const at = emitter.variable('0');
    return { isThere: `${at} < ${list}.length`, take: (partner) => emitter.line(`${partner} = ${list}[${at}++];`) };
  }
  const key = emitter.variable(`${table}.${keys.length === 1 ? 'keyForOne' : 'keyFor'}(${keys.join(', ')})`);
  const at = emitter.variable(`${table}.startOf(${key})`);
  const end = emitter.variable(`${table}.endOf(${key})`);
  return {
    isThere: `${at} < ${end}`,
    take: (partner) => emitter.line(`${partner} = ${table}.partner(${at}++);`),
    whole: { list: `${table}.listed(${at}, ${end})`, length: `${end} - ${at}` },
  };
}

interface Meeting {
  readonly match: JoinMatch;
  readonly row: Slots;
  readonly walk: Walk;
  /** Counts the partners that were met. */
  readonly met: Atom;
}
type EmitMode = (loop: Loop, meeting: Meeting, body: (partner: Atom) => void) => void;

/** Passes over a partner with whom the pair does not hold; counts it otherwise. */
function emitPair({ emitter }: Loop, { match, row, met }: Meeting, partner: Atom): void {
  if (match.residual !== undefined) {
    const variables = variablesOf(row, new Map([[match.partner, partner]]));
    emitter.line(`if (!(${emitCondition(emitter, match.residual, variables)})) continue;`);
  }
  emitter.line(`${met}++;`);
}

const emitters: { readonly [M in JoinMatch['mode']]: EmitMode } = {
  join: (loop, meeting, body) => {
    const { emitter } = loop;
    emitter.block(`while (${meeting.walk.isThere})`, () => {
      loop.worked();
      const partner = emitter.variable('undefined');
      meeting.walk.take(partner);
      emitPair(loop, meeting, partner);
      body(partner);
    });
  },
  // The body stands once, whether or not there is a partner: joins upon joins would write it twice as often each time.
  leftJoin: (loop, meeting, body) => {
    const { emitter } = loop;
    const { walk, met } = meeting;
    emitter.block('for (;;)', () => {
      const partner = emitter.variable('undefined');
      emitter.block(`if (${walk.isThere})`, () => {
        loop.worked();
        walk.take(partner);
        emitPair(loop, meeting, partner);
      });
      emitter.line(`else if (${met} !== 0) break; else ${met} = -1;`);
      body(partner);
    });
  },
  gatherJoin: (loop, meeting, body) => {
    const { emitter } = loop;
    const { whole } = meeting.walk;
    if (whole !== undefined && meeting.match.residual === undefined) {
      const all = emitter.variable(whole.list);
      emitter.line(`${meeting.met} = ${whole.length};`);
      loop.workedAtOnce(meeting.met);
      emitter.block('do', () => body(all));
      emitter.line('while (false);');
      return;
    }
    const found = emitter.variable('[]');
    emitter.block(`while (${meeting.walk.isThere})`, () => {
      loop.worked();
      const partner = emitter.variable('undefined');
      meeting.walk.take(partner);
      emitPair(loop, meeting, partner);
      emitter.line(`${found}.push(${partner});`);
    });
    // No loop is around what comes of it, which a condition below may drop.
    emitter.block('do', () => body(found));
    emitter.line('while (false);');
  },
};
