import { BrokenFile, largestRecord, type FoundRecord, type RecordReader } from './record.ts';

/** A document a line; empty lines are passed over. */
export class NdjsonReader implements RecordReader {
  private rest = '';
  private line = 0;

  push(text: string): FoundRecord[] {
    const lines = (this.rest + text).split('\n');
    this.rest = lines.pop() ?? '';
    if (this.rest.length > largestRecord) throw new BrokenFile(`Line ${this.line + lines.length + 1} is longer than 64 MB.`);
    return this.records(lines);
  }

  end(): FoundRecord[] {
    const last = this.rest;
    this.rest = '';
    return this.records([last]);
  }

  private records(lines: readonly string[]): FoundRecord[] {
    const records: FoundRecord[] = [];
    for (const raw of lines) {
      this.line++;
      // A byte order mark may open the file.
      const text = (this.line === 1 && raw.startsWith('\ufeff') ? raw.slice(1) : raw).trim();
      if (text !== '') records.push({ line: this.line, text });
    }
    return records;
  }
}
