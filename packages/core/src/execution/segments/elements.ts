import type { Atom } from '../../expressions/emitter.ts';
import type { Loop } from './loop.ts';

const none: readonly never[] = [];

/** The elements of a value while they are gone through. */
export interface Elements {
  readonly list: Atom;
  /** How many turns there are: one for a value without elements, where such rows are kept. */
  readonly count: Atom;
  readonly at: Atom;
  readonly element: Atom;
}

/**
 * Writes a loop over the elements of a value: a lone value is an array of one; missing and null have none.
 * @param before is written once, before the loop
 */
export function emitElements(
  loop: Loop,
  value: Atom,
  keepEmpty: boolean,
  body: (elements: Elements) => void,
  before: (count: Atom) => void = () => undefined,
): void {
  const { emitter } = loop;
  const list = emitter.variable(`Array.isArray(${value}) ? ${value} : ${value} == null ? ${emitter.constant(none)} : [${value}]`);
  const count = emitter.variable(keepEmpty ? `${list}.length || 1` : `${list}.length`);
  before(count);
  const at = emitter.fresh();
  emitter.block(`for (let ${at} = 0; ${at} < ${count}; ${at}++)`, () => {
    loop.worked();
    body({ list, count, at, element: emitter.variable(`${list}[${at}]`) });
  });
}
