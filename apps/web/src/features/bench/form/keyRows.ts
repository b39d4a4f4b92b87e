import { parseOrderKeyText, printExpression, printOrderKey, type OrderKey } from '@zesty-sieve/core/language';

/** A key of an order as its row in a form. */
export type KeyRow = { readonly text: string } & Pick<OrderKey, 'direction' | 'nulls'>;

export function keyRows(keys: readonly OrderKey[]): KeyRow[] {
  return keys.map((key) => ({ text: printExpression(key.expression), direction: key.direction, nulls: key.nulls }));
}

/** The text of rows; undefined where one of them cannot be read. */
export function keysText(rows: readonly KeyRow[]): string | undefined {
  const keys = rows.map(({ text, direction, nulls }) => {
    const read = parseOrderKeyText(text);
    return 'key' in read ? printOrderKey({ ...read.key, direction, nulls }) : undefined;
  });
  return keys.length === 0 || keys.includes(undefined) ? undefined : keys.join(', ');
}
