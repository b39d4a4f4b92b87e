import type { ChartSettings } from '../../../../state/bench/chartSettings.ts';
import { columnLabel, columnsOf, valueAt, type Column } from '../../../../parts/documents/columns.ts';

export type ColumnType = 'number' | 'date' | 'text' | 'other';

export interface ChartColumn extends Column {
  readonly label: string;
  readonly type: ColumnType;
  /** How many different values the rows have. */
  readonly distinct: number;
}

/** A place across, and what stands there of each series that has something there. */
export interface ChartPoint {
  readonly x: string | number;
  readonly up: Readonly<Record<string, number>>;
}

export interface ChartData {
  readonly points: readonly ChartPoint[];
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
  return columnsOf(rows).map((column) => {
    const values = rows.map((row) => valueAt(row, column.names)).filter((value) => value !== undefined && value !== null);
    const is = (holds: (value: unknown) => boolean) => values.length > 0 && values.every(holds);
    const type = is((value) => typeof value === 'number')
      ? 'number'
      : is((value) => typeof value === 'string' && dated.test(value))
        ? 'date'
        : // Where some are lists, as odd fields have them, the others are names all the same.
          values.some((value) => typeof value !== 'object')
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
  const placed = labels(rows.map((row) => valueAt(row, names(across))));
  const parted = by === null ? rows.map(() => columnLabel(names(up))) : labels(rows.map((row) => valueAt(row, names(by))));
  const read = rows.map((row, i) => ({ x: valueAt(row, names(across)), place: placed[i]!, y: valueAt(row, names(up)), of: parted[i]! }));
  const usable = read.filter((one): one is typeof one & { y: number } => typeof one.y === 'number' && (kind !== 'points' || typeof one.x === 'number')); // prettier-ignore
  const totals = new Map<string, number>();
  for (const { of, y } of usable) totals.set(of, (totals.get(of) ?? 0) + Math.abs(y));
  const ranked = [...totals].sort((a, b) => b[1] - a[1]).map(([name]) => name);
  const shown = new Set(ranked.slice(0, ranked.length > most ? most - 1 : most));
  // One of the values may be called so.
  const others = shown.has(otherSeries) ? `${otherSeries} beside it` : otherSeries;
  const seriesOf = (name: string) => (shown.has(name) ? name : others);
  const series = [...shown, ...(ranked.length > shown.size ? [others] : [])];
  const rest = { series, joined: ranked.length - shown.size, left: rows.length - usable.length };
  if (kind === 'points') return { ...rest, points: usable.map(({ x, y, of }) => ({ x: x as number, up: { [seriesOf(of)]: y } })) };
  const points = new Map<string, { readonly x: string | number; readonly up: Map<string, number> }>();
  for (const { x, place, y, of } of usable) {
    let point = points.get(place);
    if (point === undefined) points.set(place, (point = { x: typeof x === 'number' ? x : place, up: new Map() }));
    point.up.set(seriesOf(of), (point.up.get(seriesOf(of)) ?? 0) + y);
  }
  const inOrder = [...points.values()].map((point) => ({ x: point.x, up: Object.fromEntries(point.up) }));
  if (kind === 'line') inOrder.sort((a, b) => compare(a.x, b.x));
  return { ...rest, points: inOrder };
}

function compare(a: unknown, b: unknown): number {
  return typeof a === 'number' && typeof b === 'number' ? a - b : String(a) < String(b) ? -1 : 1;
}

/** Values as they are called in a chart: a text that reads like another value, as 7 does, stands in quotes where both are there. */
function labels(values: readonly unknown[]): string[] {
  const plain = (value: unknown) => (value === undefined ? 'missing' : typeof value === 'string' ? value : JSON.stringify(value));
  const ofOthers = new Set(values.filter((value) => typeof value !== 'string').map(plain));
  return values.map((value) => (typeof value === 'string' && ofOthers.has(value) ? JSON.stringify(value) : plain(value)));
}
