import type { AggregateName } from '../../../functions/aggregates.ts';
import type { Measure } from '../../../stages/stage.ts';
import { printExpression } from '../../notation/print.ts';
import { Unsaid, type ExpressionWriter, type Row } from './writer.ts';

const plain: Partial<Record<AggregateName, string>> = { sum: 'SUM', avg: 'AVG', min: 'MIN', max: 'MAX', stddev: 'STDDEV_SAMP' };

/** A measure as an aggregate of SQL. `order` is that in which rows come to it. */
export function aggregateText(
  { aggregate, argument, percentage, where }: Measure,
  row: Row,
  order: readonly string[],
  write: ExpressionWriter,
): string {
  const value = argument === undefined ? '' : write.value(argument, row);
  const filter = where === undefined ? '' : ` FILTER (WHERE ${write.condition(where, row)})`;
  if (Object.hasOwn(plain, aggregate)) return `${plain[aggregate]}(${value})${filter}`;
  switch (aggregate) {
    case 'count': {
      const counted = where === undefined ? undefined : write.condition(where, row);
      const [, column, more] = /^(.*?)([^ ]+) IS NOT NULL$/.exec(counted ?? '') === null ? [] : (/^(?:(.*) AND )?([^ ]+) IS NOT NULL$/.exec(counted!) ?? []); // prettier-ignore
      if (more !== undefined) return `COUNT(${more})${column === undefined ? '' : ` FILTER (WHERE ${column})`}`;
      return `COUNT(*)${filter}`;
    }
    case 'count_distinct':
      return `COUNT(DISTINCT ${value})${filter}`;
    case 'median':
      return `PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY ${value})${filter}`;
    case 'percentile':
      if (percentage?.kind === 'literal') return `PERCENTILE_CONT(${Number((Number(percentage.value) / 100).toPrecision(15))}) WITHIN GROUP (ORDER BY ${value})${filter}`; // prettier-ignore
      throw new Unsaid(`a percentile that is worked out: ${printExpression(percentage!)}`);
    case 'collect':
      return `JSON_ARRAYAGG(${value}${order.length === 0 ? '' : ` ORDER BY ${order.join(', ')}`})${filter}`;
    default:
      throw new Unsaid(`the aggregate ${aggregate}`);
  }
}
