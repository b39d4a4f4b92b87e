import { printExpression } from '../surfaces/notation/print.ts';
import { printOrderKey } from '../stages/order.ts';
import { parseOrderKeyText } from '../surfaces/notation/orderKeys.ts';
import type { OrderKey } from '../stages/stage.ts';

/** A key of an order as its row in a form. */
export type OrderRow = { readonly text: string } & Pick<OrderKey, 'direction' | 'nulls'>;

export function readOrderKeys(keys: readonly OrderKey[]): OrderRow[] {
  return keys.map((key) => ({ text: printExpression(key.expression), direction: key.direction, nulls: key.nulls }));
}

/** The text of the keys; undefined where there is none or one cannot be read. */
export function writeOrderKeys(rows: readonly OrderRow[]): string | undefined {
  const keys = rows.map(({ text, direction, nulls }) => {
    const read = parseOrderKeyText(text);
    return 'key' in read ? printOrderKey({ ...read.key, direction, nulls }) : undefined;
  });
  return keys.length === 0 || keys.includes(undefined) ? undefined : keys.join(', ');
}
