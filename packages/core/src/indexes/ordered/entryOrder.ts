import type { Value } from '../../values/json.ts';
import type { Direction } from '../../values/order.ts';
import type { OrderColumn } from '../../values/orderInSteps.ts';

/**
 * How the entries of an index are put in order by one of its keys. In an order of rows null and missing tie; an index
 * keeps them apart, missing as the greater, which takes a key of its own where both are there.
 */
export function entryOrder(values: readonly Value[], direction: Direction): OrderColumn[] {
  const nulls = direction === 'desc' ? 'first' : 'last';
  const key: OrderColumn = { values, direction, nulls };
  if (!values.includes(undefined) || !values.includes(null)) return [key];
  return [key, { values: values.map((value) => (value === undefined ? 1 : 0)), direction, nulls }];
}
