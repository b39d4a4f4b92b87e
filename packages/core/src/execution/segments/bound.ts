import type { Atom } from '../../expressions/emitter.ts';
import type { OrderKey } from '../../language/stages/stage.ts';
import type { Value } from '../../values/json.ts';
import { compareInOrder, needsCodePoints } from '../../values/order.ts';
import type { Loop } from './loop.ts';

/**
 * The first key of the last row of those that are kept, once there are as many as are wanted: what comes after it is passed over. A text
 * whose units all stand below U+D800 is compared as JavaScript does it, which is then by code point too, whatever the other text is.
 */
export interface Bound {
  readonly isSet: boolean;
  readonly value: Value;
  readonly isNumber: boolean;
  readonly isPlainText: boolean;
}

export const noBound: Bound = { isSet: false, value: undefined, isNumber: false, isPlainText: false };

export function boundAt(value: Value): Bound {
  const isPlainText = typeof value === 'string' && !needsCodePoints(value);
  return { isSet: true, value, isNumber: typeof value === 'number', isPlainText };
}

/** Passes over a row whose first key comes after a bound. */
export function emitBound({ emitter }: Loop, { direction, nulls }: OrderKey, value: Atom, bound: Atom): void {
  const after = direction === 'desc' ? '<' : '>';
  const sign = direction === 'desc' ? -1 : 1;
  emitter.block(`if (${bound}.isSet)`, () => {
    const number = `${bound}.isNumber && typeof ${value} === 'number'`;
    const text = `${bound}.isPlainText && typeof ${value} === 'string'`;
    emitter.line(`if ((${number}) || (${text})) { if (${value} ${after} ${bound}.value) continue; }`);
    emitter.line(
      `else if (${emitter.constant(compareInOrder)}(${value}, ${bound}.value, ${sign}, ${emitter.constant(nulls)}) > 0) continue;`,
    );
  });
}
