import { sqlName } from '../words.ts';
import type { Measure } from '../../../stages/stage.ts';
import type { Dialect } from './dialect.ts';
import { nested } from './items.ts';
import { SqliteExpressions } from './sqliteExpressions.ts';
import { isNumberKind, jsonPath, sqliteColumn, sqliteElement, sqliteTable } from './sqlitePlaces.ts';
import { noOrder, oneNull, quoted, Unsaid, type Row } from './writer.ts';

const write = new SqliteExpressions();

/** SQLite, 3.44 and later: tables `name(id, body)` with `body` the text of a document. */
export const sqliteDialect: Dialect = {
  write,
  table: sqliteTable,
  column: sqliteColumn,
  elements: ({ array, name, place, keepEmpty }, row) => {
    const found = row.find(array);
    const kind = found.place.kind!(found.steps);
    const json = found.place.json!(found.steps);
    // A lone value is an array of one, and null none at all.
    const elements = `CASE WHEN ${kind} = 'array' THEN ${json} WHEN ${kind} IS NULL OR ${kind} = 'null' THEN '[]' ELSE json_array(${json}) END`;
    const own = sqlName(name);
    const ordinal = place === undefined ? [] : [{ ...sqliteColumn([place], `${own}.key`), ordinal: `(${own}.key + 1)` }];
    return {
      text: `${keepEmpty ? 'LEFT JOIN' : 'JOIN'} json_each(${elements}) AS ${own} ON 1 = 1`,
      places: [sqliteElement(name), ...ordinal],
    };
  },
  aggregate,
  // NULL comes first in SQLite unless it is told.
  orderKey: (value, direction, nulls) => `${value}${direction === 'desc' ? ' DESC' : ''} NULLS ${nulls === 'first' ? 'FIRST' : 'LAST'}`,
  items: (items) => {
    if (items.some(({ target }) => target.length > 1)) throw new Unsaid('a field inside another');
    return nested(items);
  },
  everything: (alias, computed) => {
    const body = alias === '' ? 'body' : `${sqlName(alias)}.body`;
    if (computed.length === 0) return body;
    const made = `json_set(${[body, ...computed.flatMap(({ target, text }) => [jsonPath(target), text])].join(', ')})`;
    // What is missing is no field; an object has no first element, so that taking it away takes nothing.
    const missing = computed
      .filter(({ isWhole }) => !isWhole)
      .map(({ target, text }) => `iif(${text} IS NULL, ${jsonPath(target)}, '$[0]')`);
    return `${missing.length === 0 ? made : `json_remove(${[made, ...missing].join(', ')})`} AS body`;
  },
  rank: (text) => text,
  count: (expression, row) => write.value(expression, row),
  ordersSelected: true,
  keepsComputed: false,
  nestsRows: true,
  wholeRow: (alias) => `${sqlName(alias)}.body`,
  rowAsJson: (names) => `json_object(${names.map((name) => `${quoted(name)}, ${sqliteColumn([], sqlName(name)).json!([])}`).join(', ')})`,
  remarks: (isOrdered) => [
    ...(isOrdered ? [] : [noOrder]),
    oneNull,
    'SQLite has true and false as 1 and 0, and changes the case of ASCII letters alone.',
  ],
  noLimit: '-1',
};

function aggregate(measure: Measure, row: Row, order: readonly string[]): string {
  const { aggregate: name, argument, where } = measure;
  const value = argument === undefined ? '' : write.operand(argument, row);
  const filter = where === undefined ? '' : ` FILTER (WHERE ${write.condition(where, row)})`;
  const numbers = (): string => `CASE WHEN ${isNumberKind(argument!.kind === 'path' ? (row.find(argument!).place.kind?.(row.find(argument!).steps) ?? `typeof(${value})`) : `typeof(${value})`)} THEN ${value} END`; // prettier-ignore
  switch (name) {
    case 'count':
      return `count(*)${filter}`;
    case 'count_distinct':
      return `count(DISTINCT ${value})${filter}`;
    case 'sum':
    case 'avg':
      return `${name}(${numbers()})${filter}`;
    case 'min':
    case 'max':
      return `${name}(${value})${filter}`;
    case 'collect': {
      const kept = `${value} IS NOT NULL${where === undefined ? '' : ` AND (${write.condition(where, row)})`}`;
      return `json_group_array(${write.json(argument!, row)}${order.length === 0 ? '' : ` ORDER BY ${order.join(', ')}`}) FILTER (WHERE ${kept})`;
    }
    default:
      throw new Unsaid(`the aggregate ${name}`);
  }
}
