import type { Step } from '../tree.ts';
import { sqlName } from '../words.ts';
import type { Placed } from './writer.ts';

/** A path inside what stands at a text: `.party.size`, `[0]`. */
const inside = (steps: readonly Step[]): string => steps.map((step) => (typeof step === 'number' ? `[${step}]` : `.${sqlName(step)}`)).join(''); // prettier-ignore
const columnsOf = (isColumn: boolean): Placed['isColumn'] => (isColumn ? (steps) => steps.length <= 1 : () => false);

/** The fields of a table: under its alias, or alone where there is no other. */
export const table = (at: readonly string[], alias: string, isQuestion: boolean): Placed => ({
  at,
  text: (steps) => (alias === '' ? inside(steps).replace(/^\./, '') : `${sqlName(alias)}${inside(steps)}`),
  isColumn: columnsOf(isQuestion),
});
export const column = (at: readonly string[], text: string, isCounted = false): Placed => ({
  at,
  text: (steps) => (steps.length === 0 ? text : `${text}${inside(steps)}`),
  isColumn: (steps) => steps.length === 0,
  isCounted,
});
