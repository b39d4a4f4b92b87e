import { sqlName } from '../words.ts';
import { aggregateText } from './aggregates.ts';
import type { Dialect } from './dialect.ts';
import { IsoExpressions } from './iso.ts';
import { nested } from './items.ts';
import { column, table } from './places.ts';
import { quoted } from './writer.ts';

const write = new IsoExpressions();

/** The SQL that is read here: fields are columns. */
export const isoDialect: Dialect = {
  write,
  table,
  column,
  elements: ({ array, name, place, keepEmpty }, row) => {
    const as = place === undefined ? `AS ${sqlName(name)}` : `WITH ORDINALITY AS ${sqlName(name)}(${sqlName(name)}, ${sqlName(place)})`;
    // The notation counts places from 0, SQL from 1.
    const ordinal = place === undefined ? [] : [{ ...column([place], `(${sqlName(place)} - 1)`), ordinal: sqlName(place) }];
    return {
      text: `${keepEmpty ? 'LEFT JOIN' : 'CROSS JOIN'} UNNEST(${write.value(array, row)}) ${as}${keepEmpty ? ' ON TRUE' : ''}`,
      places: [table([name], name, false), ...ordinal],
    };
  },
  aggregate: (measure, row, order) => aggregateText(measure, row, order, write),
  orderKey: (value, direction, nulls) => `${value}${direction === 'desc' ? ' DESC' : ''}${nulls === 'first' ? ' NULLS FIRST' : ''}`,
  items: nested,
  everything: (_alias, computed) => ['*', ...nested(computed)].join(', '),
  rank: (text) => text,
  count: (expression, row) => write.value(expression, row),
  ordersSelected: true,
  keepsComputed: true,
  nestsRows: false,
  wholeRow: undefined,
  rowAsJson: (names) => `JSON_OBJECT(${names.map((name) => `${quoted(name)}: ${sqlName(name)}`).join(', ')})`,
  remarks: () => [],
  noLimit: undefined,
};
