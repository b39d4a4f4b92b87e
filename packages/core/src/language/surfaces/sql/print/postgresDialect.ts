import type { Measure } from '../../../stages/stage.ts';
import { sqlName } from '../words.ts';
import type { Dialect } from './dialect.ts';
import { nested } from './items.ts';
import { PostgresExpressions } from './postgresExpressions.ts';
import { pathOf, postgresColumn, postgresElement, postgresTable } from './postgresPlaces.ts';
import { noOrder, oneNull, quoted, Unsaid, type Row } from './writer.ts';

const write = new PostgresExpressions();

/** The order of types in the notation; jsonb has another. */
const typeOrder = (value: string): string => `array_position(ARRAY['boolean','number','string','array','object'], jsonb_typeof(${value}))`;

/** PostgreSQL: tables `name(id, body)` with `body` jsonb; every column of an answer is jsonb. */
export const postgresDialect: Dialect = {
  write,
  table: postgresTable,
  column: postgresColumn,
  elements: ({ array, name, place, keepEmpty }, row) => {
    const found = row.find(array);
    const json = found.place.json!(found.steps);
    // A lone value is an array of one, and null none at all.
    const elements = `CASE WHEN jsonb_typeof(${json}) = 'array' THEN ${json} WHEN ${json} IS NULL OR jsonb_typeof(${json}) = 'null' THEN '[]' ELSE jsonb_build_array(${json}) END`; // prettier-ignore
    const own = sqlName(name);
    const ordinal =
      place === undefined ? [] : [{ ...postgresColumn([place], `to_jsonb(${own}.place - 1)`), ordinal: `to_jsonb(${own}.place)` }];
    return {
      text: `${keepEmpty ? 'LEFT' : 'INNER'} JOIN LATERAL jsonb_array_elements(${elements}) WITH ORDINALITY AS ${own}(value, place) ON TRUE`,
      places: [postgresElement(name), ...ordinal],
    };
  },
  aggregate,
  orderKey: (value, direction, nulls) => {
    const how = `${direction === 'desc' ? ' DESC' : ''} NULLS ${nulls === 'first' ? 'FIRST' : 'LAST'}`;
    return `${typeOrder(value)}${how}, ${value}${how}`;
  },
  items: (items) => {
    if (items.some(({ target }) => target.length > 1)) throw new Unsaid('a field inside another');
    return nested(items);
  },
  everything: (alias, computed) => {
    const body = alias === '' ? 'body' : `${sqlName(alias)}.body`;
    return computed.length === 0 ? body : `${computed.reduce((made, { target, text }) => `jsonb_set_lax(${made}, ${pathOf(target)}, ${text}, true, 'delete_key')`, body)} AS body`; // prettier-ignore
  },
  rank: (text) => `to_jsonb(${text})`,
  count: (expression, row) => (expression.kind === 'literal' ? String(expression.value) : `(${write.number(expression, row)})::bigint`),
  keepsComputed: false,
  ordersSelected: false,
  nestsRows: true,
  wholeRow: (alias) => `${sqlName(alias)}.body`,
  rowAsJson: (names) => `jsonb_build_object(${names.map((name) => `${quoted(name)}, ${sqlName(name)}`).join(', ')})`,
  remarks: (isOrdered) => [
    ...(isOrdered ? [] : [noOrder]),
    oneNull,
    'PostgreSQL orders texts by the collation of its database: C is that of the notation. Every column is jsonb.',
  ],
  noLimit: undefined,
};

function aggregate({ aggregate: name, argument, where }: Measure, row: Row, order: readonly string[]): string {
  const value = argument === undefined ? '' : write.value(argument, row);
  const filter = where === undefined ? '' : ` FILTER (WHERE ${write.condition(where, row)})`;
  const present = ` FILTER (WHERE ${value} IS NOT NULL${where === undefined ? '' : ` AND (${write.condition(where, row)})`})`;
  switch (name) {
    case 'count':
      return `to_jsonb(count(*)${filter})`;
    case 'count_distinct':
      return `to_jsonb(count(DISTINCT ${value})${filter})`;
    case 'sum':
    case 'avg':
      return `to_jsonb(${name}(${write.number(argument!, row)})${filter})`;
    case 'stddev':
      return `to_jsonb(stddev_samp(${write.number(argument!, row)})${filter})`;
    case 'min':
    case 'max': {
      const by = name === 'max' ? ' DESC' : '';
      return `(array_agg(${value} ORDER BY ${typeOrder(value)}${by}, ${value}${by})${present})[1]`;
    }
    case 'collect':
      return `COALESCE(jsonb_agg(${value}${order.length === 0 ? '' : ` ORDER BY ${order.join(', ')}`})${present}, '[]')`;
    default:
      throw new Unsaid(`the aggregate ${name}`);
  }
}
