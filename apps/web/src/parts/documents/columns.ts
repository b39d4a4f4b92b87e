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

/** Elements of an array that get columns of their own; one that is longer has a column beside those. */
const elementsShown = 8;

export function isPlainObject(value: unknown): value is Record<string, unknown> {
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

function saysNothing(value: unknown): boolean {
  return value === null || value === undefined || (typeof value === 'object' && Object.keys(value).length === 0);
}

/** A path that rows have: what lies below it, and whether it is a column of its own. */
interface Place {
  readonly column: Column;
  readonly below: Map<string | number, Place>;
  isLeaf: boolean;
  /** Whether a row has more there than null, or an object or array without anything in it. */
  isTold: boolean;
}

/** Finds the columns of rows that come one part after another. */
class ColumnFinder {
  private readonly spread: ReadonlySet<string>;
  private readonly folded: ReadonlySet<string>;
  private readonly root: Place = { column: { id: columnId([]), names: [] }, below: new Map(), isLeaf: false, isTold: false };
  private readonly leaves: Place[] = [];

  constructor({ spread, folded }: Layout) {
    this.spread = new Set(spread);
    this.folded = new Set(folded);
  }

  add(row: Row): void {
    this.visit(row, this.root);
  }

  /** A field that is an object in some rows is shown spread; where it is something else in others, that has a column beside those. */
  get columns(): Column[] {
    return this.leaves.filter(({ below, isTold }) => below.size === 0 || isTold).map(({ column }) => column);
  }

  private visit(value: unknown, place: Place): void {
    const { id } = place.column;
    if (isPlainObject(value) && !isPoint(value) && !this.folded.has(id)) {
      const names = Object.keys(value);
      for (const name of names) this.visit(value[name], below(place, name));
      if (names.length > 0) return;
    }
    if (Array.isArray(value) && this.spread.has(id)) {
      value.slice(0, elementsShown).forEach((item, i) => this.visit(item, below(place, i)));
      if (value.length > 0 && value.length <= elementsShown) return;
    }
    if (place === this.root) return;
    if (!place.isLeaf) this.leaves.push(place);
    place.isLeaf = true;
    if (!saysNothing(value)) place.isTold = true;
  }
}

function below({ column, below }: Place, name: string | number): Place {
  let place = below.get(name);
  if (place === undefined) {
    const names = [...column.names, name];
    below.set(name, (place = { column: { id: columnId(names), names }, below: new Map(), isLeaf: false, isTold: false }));
  }
  return place;
}

/** The leaf paths of rows in order of first appearance: objects are spread and arrays are leaves, unless the layout says so. */
export function columnsOf(rows: readonly Row[], layout: Layout = { spread: [], folded: [] }): Column[] {
  const finder = new ColumnFinder(layout);
  for (const row of rows) finder.add(row);
  return finder.columns;
}

/** What was found in rows of which more may come, by the first of them. */
const found = new WeakMap<object, { readonly layout: Layout; readonly finder: ColumnFinder; readonly seen: Row[] }>();

/** The same of rows to which pages are added: those that were looked at before are not looked at again. */
export function columnsOfPages(rows: readonly Row[], layout: Layout): Column[] {
  const [first] = rows;
  if (typeof first !== 'object' || first === null) return columnsOf(rows, layout);
  let known = found.get(first);
  const goesOn = known?.layout === layout && known.seen.length <= rows.length && known.seen.every((row, i) => row === rows[i]);
  if (known === undefined || !goesOn) found.set(first, (known = { layout, finder: new ColumnFinder(layout), seen: [] }));
  for (let i = known.seen.length; i < rows.length; i++) {
    known.finder.add(rows[i]);
    known.seen.push(rows[i]);
  }
  return known.finder.columns;
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
