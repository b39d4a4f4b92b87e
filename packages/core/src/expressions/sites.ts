import type { Expression } from '../language/tree.ts';
import type { Told } from '../language/wording.ts';
import type { Site } from './context.ts';
import type { Atom } from './emitter.ts';

const sites = new WeakMap<Expression, Site>();

/** An operation whose operands may be of types that it has no meaning for. */
export function siteOf(expression: Expression, operands: readonly Expression[]): Site {
  let site = sites.get(expression);
  if (site === undefined) {
    site = { id: expression.id, text: writtenAs(expression), operands: operands.map(writtenAs) };
    sites.set(expression, site);
  }
  return site;
}

/** The statement part that notes an operand which the operation cannot use, and gives *nothing*. */
export function noteOf(site: Atom, position: number, value: Atom): string {
  return `context.misfits.note(${site}, ${position}, ${value})`;
}

function writtenAs(expression: Expression): Told {
  return (say) => say.expression(expression);
}
