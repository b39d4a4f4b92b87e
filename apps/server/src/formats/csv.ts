import { finished } from 'node:stream/promises';
import { parse, type CsvError, type Parser } from 'csv-parse';
import { writeField, type Json, type JsonObject } from '@zesty-sieve/core';
import { BrokenFile, largestRecord, type FoundRecord, type RecordReader } from './record.ts';

export interface CsvOptions {
  readonly types: 'auto' | 'text';
  readonly delimiter: string;
  readonly header?: 'yes' | 'no';
  /** Types of single columns, `name:type` separated by commas. */
  readonly columns?: string;
}

type CellType = 'auto' | 'text' | 'number' | 'boolean' | 'skip';
const cellTypes: readonly string[] = ['auto', 'text', 'number', 'boolean', 'skip'] satisfies CellType[];

/** Reads `name:type,…`; a name may hold any sign but a comma. */
function columnTypes(text: string | undefined): Map<string, CellType> {
  const types = new Map<string, CellType>();
  for (const part of (text ?? '').split(',')) {
    const at = part.lastIndexOf(':');
    const type = part.slice(at + 1).trim();
    if (at > 0 && cellTypes.includes(type)) types.set(part.slice(0, at).trim(), type as CellType);
  }
  return types;
}

interface Column {
  readonly names: string[];
  readonly type: CellType;
  /** Cells that look like numbers and stayed texts. */
  keptAsText: number;
}

/** So many of those are told of for each column. */
const toldPerColumn = 20;

interface Cell {
  readonly text: string;
  readonly quoted: boolean;
}

const number = /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/;

/**
 * CSV of RFC 4180, the first record naming the columns. An empty cell is a missing field, a quoted empty one the
 * empty text. A column `a.b` is the field b of a.
 */
export class CsvReader implements RecordReader {
  private readonly parser: Parser;
  private readonly found: FoundRecord[] = [];
  private columns: Column[] | undefined;
  private readonly types: ReadonlyMap<string, CellType>;
  private failure: CsvError | undefined;
  private readonly options: CsvOptions;
  private lastLine = 0;

  constructor(options: CsvOptions) {
    this.options = options;
    this.types = columnTypes(options.columns);
    this.parser = parse({
      delimiter: options.delimiter,
      bom: true,
      info: true,
      // Files are put together of others: their lines may end one way here and another there.
      record_delimiter: ['\r\n', '\n', '\r'],
      relax_column_count: true,
      skip_empty_lines: true,
      max_record_size: largestRecord,
      cast: (text, { quoting }) => ({ text, quoted: quoting }) as unknown as string,
    });
    this.parser.on('data', ({ record, info }: { record: Cell[]; info: { lines: number } }) => this.record(record, info.lines));
    this.parser.on('error', (error: CsvError) => (this.failure = error));
  }

  async push(text: string): Promise<FoundRecord[]> {
    await new Promise<void>((resolve) => this.parser.write(text, () => resolve()));
    return this.taken();
  }

  async end(): Promise<FoundRecord[]> {
    this.parser.end();
    if (!this.failure) await finished(this.parser).catch((error: CsvError) => (this.failure = error));
    return this.taken();
  }

  private taken(): FoundRecord[] {
    if (this.failure) throw new BrokenFile(`The CSV cannot be read: ${this.failure.message}`);
    return this.found.splice(0);
  }

  private record(cells: readonly Cell[], endLine: number): void {
    // The parser says on which line a record ends; texts in quotes may hold line breaks.
    const breaks = cells.reduce((sum, { text }) => sum + (text.match(/\n/g)?.length ?? 0), 0);
    const line = Math.max(this.lastLine + 1, endLine - breaks);
    this.lastLine = endLine;
    if (this.columns === undefined) {
      const isNamed = this.options.header !== 'no';
      this.columns = cells.map(({ text }, i) => {
        const name = isNamed ? text : `column${i + 1}`;
        return { names: name.split('.'), type: this.types.get(name) ?? this.options.types, keptAsText: 0 };
      });
      if (isNamed) return;
    }
    if (cells.length > this.columns.length) {
      this.found.push({ line, problem: `it has ${cells.length} cells, and the header names ${this.columns.length} columns` });
      return;
    }
    const document: JsonObject = {};
    const warnings: { path: string; reason: string }[] = [];
    for (const [i, cell] of cells.entries()) {
      const column = this.columns[i]!;
      const { names, type } = column;
      const value = valueOf(cell, type);
      if (value === unfit) {
        this.found.push({ line, problem: `${names.join('.')} is to be a ${type}, and is ${JSON.stringify(cell.text)}` });
        return;
      }
      if (value !== undefined) put(document, names, value);
      if (type === 'auto' && !cell.quoted && typeof value === 'string' && number.test(value) && column.keptAsText++ < toldPerColumn)
        warnings.push({
          path: names.join('.'),
          reason: `${value} stays text: as a number it would come back as ${String(Number(value))}. Say that the column is of numbers, if it is.`,
        });
    }
    this.found.push({ line, text: JSON.stringify(document), ...(warnings.length > 0 && { warnings }) });
  }
}

/** What a cell of a typed column is that cannot be of the type. */
const unfit = Symbol('unfit');

function valueOf({ text, quoted }: Cell, type: CellType): Json | undefined | typeof unfit {
  if (type === 'skip') return undefined;
  if (type === 'number' || type === 'boolean') {
    if (text.trim() === '') return undefined;
    const read = typedValue(text.trim());
    return typeof read === type ? read : unfit;
  }
  if (quoted || type === 'text') return text === '' && !quoted ? undefined : text;
  return text === '' ? undefined : plainValue(text);
}

/** A cell of a column of which nothing is known: a number only where it comes back as it was, so that codes stay codes. */
function plainValue(text: string): Json {
  if (text === 'true' || text === 'false') return text === 'true';
  return number.test(text) && String(Number(text)) === text ? Number(text) : text;
}

/** A cell of a column that is said to be of numbers, or of true and false. */
function typedValue(text: string): Json {
  if (text === 'true' || text === 'false') return text === 'true';
  return number.test(text) && Number.isFinite(Number(text)) && !loses(text) ? Number(text) : text;
}

/** Whether a number would not hold all of an integer's digits. */
function loses(text: string): boolean {
  return /^-?\d+$/.test(text) && !Number.isSafeInteger(Number(text));
}

function put(owner: JsonObject, names: readonly string[], value: Json): void {
  let at = owner;
  for (const name of names.slice(0, -1)) {
    const below = Object.hasOwn(at, name) ? at[name] : undefined;
    const next: JsonObject = typeof below === 'object' && below !== null && !Array.isArray(below) ? below : {};
    if (next !== below) writeField(at, name, next);
    at = next;
  }
  writeField(at, names[names.length - 1]!, value);
}
