import { BrokenFile, largestRecord, type FoundRecord, type RecordReader } from './record.ts';

/** A document a line; empty lines are passed over. */
export class NdjsonReader implements RecordReader {
  /** The pieces of a line whose end has not come: put together once. */
  private open: string[] = [];
  private openLength = 0;
  private line = 0;

  push(text: string): FoundRecord[] {
    const lines = text.split('\n');
    const last = lines.pop() ?? '';
    if (lines.length > 0) lines[0] = this.taken() + lines[0];
    const records = this.records(lines);
    this.open.push(last);
    this.openLength += last.length;
    if (this.openLength > largestRecord) throw new BrokenFile(`Line ${this.line + 1} is longer than 64 MB.`);
    return records;
  }

  end(): FoundRecord[] {
    return this.records([this.taken()]);
  }

  private taken(): string {
    const text = this.open.join('');
    this.open = [];
    this.openLength = 0;
    return text;
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
