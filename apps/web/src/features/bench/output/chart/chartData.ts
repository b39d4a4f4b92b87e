import type { ChartSettings } from '../../../../state/bench/chartSettings.ts';
import { columnLabel, columnsOf, valueAt, type Column } from '../../../../parts/documents/columns.ts';

export type ColumnType = 'number' | 'date' | 'text' | 'other';

export interface ChartColumn extends Column {
  readonly label: string;
  readonly type: ColumnType;
  /** How many different values the rows have. */
  readonly distinct: number;
}

export interface ChartData {
  readonly points: readonly Readonly<Record<string, string | number | null>>[];
  readonly series: readonly string[];
  /** Values of the third column beyond those that have a series, all in one. */
  readonly joined: number;
  /** Rows that have no number to show. */
  readonly left: number;
}

const most = 8;
const otherSeries = 'all others';
const dated = /^\d{4}-\d{2}(?:-\d{2}(?:[T ]\d{2}:\d{2}.*)?)?$/;

/** The columns of rows with what they hold, as far as a chart cares. */
export function chartColumns(rows: readonly unknown[]): ChartColumn[] {
  return columnsOf(rows.slice(0, 200)).map((column) => {
    const values = rows.map((row) => valueAt(row, column.names)).filter((value) => value !== undefined && value !== null);
    const is = (holds: (value: unknown) => boolean) => values.length > 0 && values.every(holds);
    const type = is((value) => typeof value === 'number')
      ? 'number'
      : is((value) => typeof value === 'string' && dated.test(value))
        ? 'date'
        : is((value) => typeof value !== 'object')
          ? 'text'
          : 'other';
    return { ...column, label: columnLabel(column.names), type, distinct: new Set(values).size };
  });
}

/** The chart that the columns lend themselves to; undefined where none does. */
export function fittingChart(columns: readonly ChartColumn[], rows: number): ChartSettings | undefined {
  const numbers = columns.filter(({ type }) => type === 'number');
  const date = columns.find(({ type, distinct }) => type === 'date' && distinct > 1);
  // An identity says less to a reader than a name beside it.
  const texts = columns.filter(({ type, distinct }) => type === 'text' && distinct > 1);
  const names = [...texts.filter(({ label }) => label !== 'id'), ...texts.filter(({ label }) => label === 'id')];
  const [first, second] = numbers;
  if (first === undefined) return undefined;
  if (date) return { kind: 'line', across: date.id, up: first.id, by: names.find(({ distinct }) => distinct <= most)?.id ?? null };
  const name = names.find(({ distinct }) => distinct === rows) ?? names[0];
  // A name that stands in every row is a bar's; one that repeats tells series apart.
  if (name && (second === undefined || name.distinct <= 60)) {
    const by = names.find(({ id, distinct }) => id !== name.id && distinct <= most);
    return { kind: 'bars', across: name.id, up: first.id, by: by?.id ?? null };
  }
  return second && { kind: 'points', across: first.id, up: second.id, by: names.find(({ distinct }) => distinct <= most)?.id ?? null };
}

/** The points of a chart. Bars and lines of the same place are added up. */
export function chartData(rows: readonly unknown[], { kind, across, up, by }: ChartSettings): ChartData {
  const names = (id: string) => JSON.parse(id) as (string | number)[];
  const read = rows.map((row) => ({
    x: valueAt(row, names(across)),
    y: valueAt(row, names(up)),
    of: by === null ? columnLabel(names(up)) : labelOf(valueAt(row, names(by))),
  }));
  const usable = read.filter(({ x, y }) => typeof y === 'number' && (kind !== 'points' || typeof x === 'number'));
  const totals = new Map<string, number>();
  for (const { of, y } of usable) totals.set(of, (totals.get(of) ?? 0) + Math.abs(y as number));
  const ranked = [...totals].sort((a, b) => b[1] - a[1]).map(([name]) => name);
  const shown = new Set(ranked.slice(0, ranked.length > most ? most - 1 : most));
  const seriesOf = (name: string) => (shown.has(name) ? name : otherSeries);
  const series = [...shown, ...(ranked.length > shown.size ? [otherSeries] : [])];
  const rest = { series, joined: ranked.length - shown.size, left: rows.length - usable.length };
  if (kind === 'points') {
    return { ...rest, points: usable.map(({ x, y, of }) => ({ x: x as number, [seriesOf(of)]: y as number })) };
  }
  const points = new Map<string, Record<string, string | number | null>>();
  for (const { x, y, of } of usable) {
    const place = labelOf(x);
    let point = points.get(place);
    if (point === undefined) points.set(place, (point = { x: typeof x === 'number' ? x : place }));
    const key = seriesOf(of);
    point[key] = Number(point[key] ?? 0) + (y as number);
  }
  const inOrder = [...points.values()];
  if (kind === 'line') inOrder.sort((a, b) => compare(a.x, b.x));
  return { ...rest, points: inOrder };
}

function compare(a: unknown, b: unknown): number {
  return typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : 1;
}

function labelOf(value: unknown): string {
  return value === undefined ? 'missing' : typeof value === 'string' ? value : JSON.stringify(value);
}
