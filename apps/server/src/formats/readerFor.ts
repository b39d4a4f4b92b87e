import type { ImportOptions } from '@zesty-sieve/contract';
import type { RecordReader } from './record.ts';
import { CsvReader } from './csv.ts';
import { JsonArrayReader } from './jsonArray.ts';
import { NdjsonReader } from './ndjson.ts';

/** The formats of files that are loaded. */
export type ImportFormat = 'ndjson' | 'json' | 'csv';

/** What cuts a file of a format into records. */
export function readerFor(format: ImportFormat, options: ImportOptions): RecordReader {
  if (format === 'csv') return new CsvReader(options);
  return format === 'json' ? new JsonArrayReader() : new NdjsonReader();
}
