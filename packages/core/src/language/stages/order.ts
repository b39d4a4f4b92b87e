import { checkKey } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import type { OrderKey, OrderStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { no, none, nothing } from './traits.ts';

export const order: StageDefinition<OrderStage> = {
  words: ['order', 'by'],
  doc: 'Orders the rows by one key or several; ascending and nulls last unless said. Ties stay in the order in which they came.',
  example: 'order by @.arrivesOn desc, @.id',
  parse: (reader) => ({ kind: 'order', keys: commaSeparated(reader, () => parseOrderKey(reader)) }),
  print: ({ keys }) => `order by ${keys.map(printOrderKey).join(', ')}`,
  expressions: ({ keys }) => keys.map((key) => key.expression),
  traits: {
    gives: () => 'one',
    decidedBy: 'rows',
    order: 'made',
    // Ties go by insertion order.
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: true,
    writes: nothing,
    source: none,
    made: none,
  },
  check: ({ keys }, scope) => {
    for (const { expression } of keys) checkKey(expression, scope);
  },
  effect: (_stage, before) => before,
};

/** `EXPR [asc|desc] [nulls first|last]` */
export function parseOrderKey(reader: Reader): OrderKey {
  const start = reader.token;
  const expression = parseExpression(reader);
  const descending = reader.takeWord('desc') !== undefined;
  if (!descending) reader.takeWord('asc');
  let nulls: OrderKey['nulls'] = 'last';
  if (reader.takeWord('nulls')) {
    if (reader.takeWord('first')) nulls = 'first';
    else if (!reader.takeWord('last')) reader.fail('“first” or “last”');
  }
  return { expression, direction: descending ? 'desc' : 'asc', nulls, ...reader.placeFrom(start) };
}

export function printOrderKey({ expression, direction, nulls }: OrderKey): string {
  return printExpression(expression) + (direction === 'desc' ? ' desc' : '') + (nulls === 'first' ? ' nulls first' : '');
}
