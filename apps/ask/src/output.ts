import Table from 'cli-table3';
import { stringify } from 'csv-stringify/sync';
import type { Json } from '@zesty-sieve/core/language';
import type { Answer, Server } from './server.ts';

export const formats = ['table', 'json', 'ndjson', 'csv'] as const;
export type Format = (typeof formats)[number];
export const isFormat = (text: string): text is Format => (formats as readonly string[]).includes(text);

/** Rows that are put into one table: its columns are as wide as their widest values. */
export const tableRows = 500;

type Write = (text: string) => Promise<void>;

/** Writes the rows of an answer as they come. */
export async function writeRows(server: Server, answer: Answer, format: Format, write: Write, signal: AbortSignal): Promise<void> {
  if (format === 'table') return writeTables(server, answer, write, signal);
  if (answer.runId === null) return write(asText(answer.documents, format));
  for await (const piece of await server.stream(answer.runId, format, signal)) await write(new TextDecoder().decode(piece, { stream: true })); // prettier-ignore
  if (format === 'json') await write('\n');
}

/** A table for so many rows at a time, so that the first stand there before the last have come. */
async function writeTables(server: Server, answer: Answer, write: Write, signal: AbortSignal): Promise<void> {
  const { runId, rowsReturned } = answer;
  let rows: readonly Json[] = answer.documents;
  for (let offset = 0; rows.length > 0;) {
    await write(`${table(rows)}\n`);
    offset += rows.length;
    if (runId === null || offset >= rowsReturned) return;
    rows = await server.rows(runId, offset, tableRows, signal);
  }
}

function table(rows: readonly Json[]): string {
  const columns = [...new Set(rows.flatMap((row) => (isRow(row) ? Object.keys(row) : [])))];
  const made = new Table({ head: columns, style: { head: [], border: [], compact: true } });
  for (const row of rows) made.push(columns.map((name) => cell(isRow(row) ? row[name] : row)));
  return made.toString();
}

const isRow = (row: Json): row is Record<string, Json> => typeof row === 'object' && row !== null && !Array.isArray(row);

/** A value in a cell; what is missing is empty, and NULL says so. */
function cell(value: Json | undefined): string {
  if (value === undefined) return '';
  return typeof value === 'string' ? printable(value) : JSON.stringify(value);
}

/** Without what moves a terminal's cursor or changes its colours. */
function printable(text: string): string {
  // eslint-disable-next-line no-control-regex -- control characters are what is replaced
  return text.replace(/[\u0000-\u001f\u007f-\u009f]/g, (one) => (one === '\n' ? '⏎' : one === '\t' ? ' ' : '�'));
}

/** Rows that are all there, such as those of DESCRIBE. */
function asText(rows: readonly Json[], format: Exclude<Format, 'table'>): string {
  if (format === 'json') return `${JSON.stringify(rows, null, 2)}\n`;
  if (format === 'ndjson') return rows.map((row) => `${JSON.stringify(row)}\n`).join('');
  return stringify(rows.filter(isRow).map(flat), { header: true });
}

/** A row whose nested values are JSON. */
function flat(row: Record<string, Json>): Record<string, string | number | boolean | null> {
  return Object.fromEntries(
    Object.entries(row).map(([name, value]) => [name, typeof value === 'object' && value !== null ? JSON.stringify(value) : value]),
  );
}
