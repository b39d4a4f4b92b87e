/** A column of the table: a chain of field names from the row. */
export interface Column {
  readonly id: string;
  readonly names: readonly string[];
}

type Row = unknown;

function isPlainObject(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** The leaf paths of rows in order of first appearance: objects are spread, arrays are leaves. */
export function columnsOf(rows: readonly Row[]): Column[] {
  const columns = new Map<string, Column>();
  const visit = (value: unknown, names: readonly string[]): void => {
    if (isPlainObject(value) && Object.keys(value).length > 0 && !isPoint(value)) {
      for (const name of Object.keys(value)) visit(value[name], [...names, name]);
      return;
    }
    const id = JSON.stringify(names);
    if (!columns.has(id)) columns.set(id, { id, names });
  };
  for (const row of rows) visit(row, []);
  // A field that is an object in some rows and something else in others is shown spread.
  const prefixes = new Set(
    [...columns.values()].flatMap(({ names }) => names.slice(0, -1).map((_, i) => JSON.stringify(names.slice(0, i + 1)))),
  );
  return [...columns.values()].filter(({ id, names }) => names.length > 0 && !prefixes.has(id));
}

/** A GeoJSON Point is one value to the reader. */
function isPoint(value: Record<string, unknown>): boolean {
  return value.type === 'Point' && Array.isArray(value.coordinates);
}

export function valueAt(row: Row, names: readonly string[]): unknown {
  let at: unknown = row;
  for (const name of names) {
    if (!isPlainObject(at) || !Object.hasOwn(at, name)) return undefined;
    at = at[name];
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
