import { printMeasure } from '../../stages/group.ts';
import { printOrderKey } from '../../stages/order.ts';
import type { Words } from '../../words.ts';
import { printGivenName } from './names.ts';
import { pathText, printExpression } from './print.ts';

/** How the notation writes the parts of a pipeline. */
export const notationWords: Words = {
  expression: printExpression,
  orderKey: printOrderKey,
  measure: printMeasure,
  name: printGivenName,
  field: (names) => pathText(names),
  places: (lines) => `line${lines.length === 1 ? '' : 's'} ${lines.join(', ')}`,
};
