export type FileFormat = 'ndjson' | 'json' | 'csv';

export const contentTypes: Record<FileFormat, string> = {
  ndjson: 'application/x-ndjson',
  json: 'application/json',
  csv: 'text/csv',
};

export function isZipped(file: File): boolean {
  return file.name.toLowerCase().endsWith('.gz');
}

/** What a file is by its name; a text that was pasted, by how it begins. */
export function formatOf(file: File): FileFormat {
  const plain = file.name.toLowerCase().replace(/\.gz$/, '');
  if (plain.endsWith('.csv') || plain.endsWith('.tsv')) return 'csv';
  return plain.endsWith('.json') ? 'json' : 'ndjson';
}

export function formatOfText(text: string): FileFormat {
  const begin = text.trimStart();
  if (begin.startsWith('[')) return 'json';
  if (!begin.startsWith('{')) return 'csv';
  // One document over several lines is a JSON text of its own.
  const [line = ''] = begin.split('\n', 1);
  try {
    JSON.parse(line);
    return 'ndjson';
  } catch {
    return 'json';
  }
}
