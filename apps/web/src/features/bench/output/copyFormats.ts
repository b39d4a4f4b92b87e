import { columnLabel, columnsOf, valueAt } from '../../../parts/documents/columns.ts';

export type CopyFormat = 'json' | 'ndjson' | 'csv' | 'markdown';

function cellText(value: unknown): string {
  if (value === undefined || value === null) return '';
  return typeof value === 'string' ? value : JSON.stringify(value);
}

/** Rows as text to paste elsewhere. CSV is that of RFC 4180; nested fields have columns of their own. */
export function stringify(rows: readonly unknown[], format: CopyFormat): string {
  if (format === 'json') return JSON.stringify(rows, null, 2);
  if (format === 'ndjson') return rows.map((row) => JSON.stringify(row)).join('\n');
  const columns = columnsOf(rows);
  const header = columns.map(({ names }) => columnLabel(names));
  const cells = rows.map((row) => columns.map(({ names }) => cellText(valueAt(row, names))));
  if (format === 'csv') {
    const quoted = (cell: string) => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
    return [header, ...cells].map((line) => line.map(quoted).join(',')).join('\r\n');
  }
  const escaped = (cell: string) => cell.replaceAll('|', '\\|').replaceAll('\n', ' ');
  return [header, header.map(() => '---'), ...cells].map((line) => `| ${line.map(escaped).join(' | ')} |`).join('\n');
}
