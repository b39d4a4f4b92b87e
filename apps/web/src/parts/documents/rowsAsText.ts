import { columnId, columnLabel, columnsOf, isPlainObject, valueAt } from './columns.ts';

export type CopyFormat = 'json' | 'ndjson' | 'csv' | 'markdown';

/** A text that a spreadsheet would take for a formula, with an apostrophe before it (OWASP, CSV injection). */
const guarded = (text: string): string => (/^[=+\-@\t\r]/.test(text) ? `'${text}` : text);

function cellText(value: unknown, isGuarded: boolean): string {
  if (value === undefined || value === null) return '';
  if (typeof value !== 'string') return JSON.stringify(value);
  return isGuarded ? guarded(value) : value;
}

/** Rows as text to paste elsewhere. CSV is that of RFC 4180, and holds no formulas; nested fields have columns of their own. */
export function stringify(rows: readonly unknown[], format: CopyFormat): string {
  if (format === 'json') return JSON.stringify(rows, null, 2);
  if (format === 'ndjson') return rows.map((row) => JSON.stringify(row)).join('\n');
  const columns = columnsOf(rows);
  const isCsv = format === 'csv';
  const header = columns.map(({ names }) => (isCsv ? guarded(columnLabel(names)) : columnLabel(names)));
  // What has columns of its own is not told twice.
  const parts = new Set(columns.flatMap(({ names }) => names.slice(0, -1).map((_, i) => columnId(names.slice(0, i + 1)))));
  const own = (value: unknown, id: string) => (isPlainObject(value) && parts.has(id) ? undefined : value);
  const cells = rows.map((row) => columns.map(({ id, names }) => cellText(own(valueAt(row, names), id), isCsv)));
  if (isCsv) {
    const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
    return [header, ...cells].map((line) => line.map(quoted).join(',')).join('\r\n');
  }
  const escaped = (cell: string) => cell.replaceAll('|', '\\|').replaceAll(/\r?\n|\r/g, ' ');
  return [header, header.map(() => '---'), ...cells].map((line) => `| ${line.map(escaped).join(' | ')} |`).join('\n');
}
