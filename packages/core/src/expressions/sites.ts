import type { Expression } from '../language/tree.ts';
import type { Told } from '../language/wording.ts';
import type { Site } from './context.ts';
import type { Atom } from './emitter.ts';

/** An operation whose operands may be of types that it has no meaning for. */
export function siteOf(expression: Expression, operands: readonly Expression[]): Site {
  return { id: expression.id, text: writtenAs(expression), operands: operands.map(writtenAs) };
}

/** The statement part that notes an operand which the operation cannot use, and gives *nothing*. */
export function noteOf(site: Atom, position: number, value: Atom): string {
  return `context.misfits.note(${site}, ${position}, ${value})`;
}

function writtenAs(expression: Expression): Told {
  return (say) => say.expression(expression);
}
