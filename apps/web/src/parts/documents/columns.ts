/** A column of the table: a chain of field names, and positions in arrays, from the row. */
export interface Column {
  readonly id: string;
  readonly names: readonly (string | number)[];
}

/** What is spread against its nature: arrays into elements, objects not into fields. By the identities of columns. */
export interface Layout {
  readonly spread: readonly string[];
  readonly folded: readonly string[];
}

type Row = unknown;

/** Elements of an array that get columns of their own. */
const elementsShown = 8;

function isPlainObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

export function columnId(names: readonly (string | number)[]): string {
  return JSON.stringify(names);
}

/** How a column is headed: its names joined by dots, positions in brackets. */
export function columnLabel(names: readonly (string | number)[]): string {
  return names.reduce<string>(
    (label, name) => (typeof name === 'number' ? `${label}[${name}]` : label === '' ? name : `${label}.${name}`),
    '',
  );
}

/** The leaf paths of rows in order of first appearance: objects are spread and arrays are leaves, unless the layout says so. */
export function columnsOf(rows: readonly Row[], layout: Layout = { spread: [], folded: [] }): Column[] {
  const columns = new Map<string, Column>();
  const spread = new Set(layout.spread);
  const folded = new Set(layout.folded);
  const visit = (value: unknown, names: readonly (string | number)[]): void => {
    const id = columnId(names);
    if (isPlainObject(value) && Object.keys(value).length > 0 && !isPoint(value) && !folded.has(id)) {
      for (const name of Object.keys(value)) visit(value[name], [...names, name]);
      return;
    }
    if (Array.isArray(value) && spread.has(id)) {
      value.slice(0, elementsShown).forEach((item, i) => visit(item, [...names, i]));
      if (value.length > 0) return;
    }
    if (!columns.has(id)) columns.set(id, { id, names });
  };
  for (const row of rows) visit(row, []);
  // A field that is an object in some rows and something else in others is shown spread.
  const prefixes = new Set([...columns.values()].flatMap(({ names }) => names.slice(0, -1).map((_, i) => columnId(names.slice(0, i + 1)))));
  return [...columns.values()].filter(({ id, names }) => names.length > 0 && !prefixes.has(id));
}

/** The columns in their chosen order; those of which nothing was said keep theirs, after the others. */
export function inChosenOrder(columns: readonly Column[], order: readonly string[]): Column[] {
  const place = new Map(order.map((id, i) => [id, i]));
  return [...columns].sort((a, b) => (place.get(a.id) ?? order.length) - (place.get(b.id) ?? order.length));
}

/** A GeoJSON Point is one value to the reader. */
function isPoint(value: Record<string, unknown>): boolean {
  return value.type === 'Point' && Array.isArray(value.coordinates);
}

export function valueAt(row: Row, names: readonly (string | number)[]): unknown {
  let at: unknown = row;
  for (const name of names) {
    if (typeof name === 'number' ? !Array.isArray(at) : !isPlainObject(at) || !Object.hasOwn(at, name)) return undefined;
    at = (at as Record<string | number, unknown>)[name];
  }
  return at;
}

/** A value in the length of a cell. */
export function shortText(value: unknown): string {
  if (value === undefined) return '';
  if (typeof value === 'string') return value;
  if (Array.isArray(value)) {
    if (value.length === 0) return '[ ]';
    if (value.every((item) => typeof item !== 'object') && value.length <= 4) return value.map(String).join(', ');
    return `[${value.length} ${value.length === 1 ? 'element' : 'elements'}]`;
  }
  if (isPlainObject(value)) {
    if (isPoint(value)) return (value.coordinates as unknown[]).join(', ');
    return `{${Object.keys(value).length} fields}`;
  }
  return String(value);
}

/** Some of the columns before the others, after the first one, which tells rows apart. */
export function withFirst(columns: readonly Column[], isFirst: (column: Column) => boolean): Column[] {
  const [identity, ...others] = columns;
  if (identity === undefined) return [];
  return [identity, ...others.filter(isFirst), ...others.filter((column) => !isFirst(column))];
}
