import { BrokenFile, largestRecord, type FoundRecord, type RecordReader } from './record.ts';

type State = 'start' | 'element or end' | 'inside' | 'separator' | 'element' | 'done';

/**
 * The elements of one JSON array, each with its own text; a single object counts as an array of one. Elements are
 * cut out by following brackets and strings, so that their text stays as it was.
 */
export class JsonArrayReader implements RecordReader {
  /** What has come of the element that is being read, in pieces that are put together once. */
  private before: string[] = [];
  private beforeLength = 0;
  private text = '';
  private at = 0;
  private line = 1;
  private state: State = 'start';
  private depth = 0;
  private inString = false;
  private escaped = false;
  private elementFrom = 0;
  private elementLine = 1;
  private single = false;

  push(text: string): FoundRecord[] {
    const found: FoundRecord[] = [];
    this.text = text;
    this.elementFrom = 0;
    for (this.at = 0; this.at < text.length; this.at++) this.step(text.charCodeAt(this.at), found);
    if (this.state !== 'inside') return found;
    const open = text.slice(this.elementFrom);
    this.before.push(open);
    this.beforeLength += open.length;
    if (this.beforeLength > largestRecord)
      throw new BrokenFile(`The element that begins on line ${this.elementLine} is longer than 64 MB.`);
    this.elementFrom = text.length;
    return found;
  }

  end(): FoundRecord[] {
    if (this.state === 'done') return [];
    if (this.state === 'inside' && this.depth === 0 && this.single) return [this.element()];
    throw new BrokenFile(`The array is cut off on line ${this.line}.`);
  }

  private step(unit: number, found: FoundRecord[]): void {
    if (unit === 0x0a) this.line++;
    if (this.state === 'inside') {
      this.inside(unit, found);
      return;
    }
    if (unit === 0x20 || unit === 0x09 || unit === 0x0a || unit === 0x0d) return;
    const sign = String.fromCharCode(unit);
    switch (this.state) {
      case 'start':
        if (unit === 0xfeff) return;
        if (sign === '[') this.state = 'element or end';
        else if (sign === '{') {
          this.single = true;
          this.begin(unit);
        } else throw new BrokenFile('The file is no JSON array of documents: it begins with ' + JSON.stringify(sign) + '.');
        return;
      case 'element or end':
        if (sign === ']') this.state = 'done';
        else this.begin(unit);
        return;
      case 'element':
        if (sign === ']' || sign === ',') throw new BrokenFile(`An element is missing on line ${this.line}.`);
        this.begin(unit);
        return;
      case 'separator':
        if (sign === ',') this.state = 'element';
        else if (sign === ']') this.state = 'done';
        else throw new BrokenFile(`Expected “,” or “]” on line ${this.line}, found ${JSON.stringify(sign)}.`);
        return;
      case 'done':
        throw new BrokenFile(`Something follows the end of the array on line ${this.line}.`);
    }
  }

  private begin(unit: number): void {
    this.state = 'inside';
    this.elementFrom = this.at;
    this.elementLine = this.line;
    this.depth = 0;
    this.inString = unit === 0x22;
    this.escaped = false;
    if (unit === 0x7b || unit === 0x5b) this.depth = 1;
  }

  private inside(unit: number, found: FoundRecord[]): void {
    if (this.inString) {
      if (this.escaped) this.escaped = false;
      else if (unit === 0x5c) this.escaped = true;
      else if (unit === 0x22) this.inString = false;
      return;
    }
    if (unit === 0x22) this.inString = true;
    else if (unit === 0x7b || unit === 0x5b) this.depth++;
    else if ((unit === 0x7d || unit === 0x5d) && this.depth > 0) {
      this.depth--;
      if (this.depth === 0) {
        this.at++;
        found.push(this.element());
        this.at--;
      }
    } else if (this.depth === 0 && (unit === 0x2c || unit === 0x5d)) {
      // A bare value ended; this sign is the separator after it.
      found.push(this.element());
      this.state = unit === 0x2c ? 'element' : 'done';
    }
  }

  private element(): FoundRecord {
    this.state = this.single ? 'done' : 'separator';
    const text = this.before.join('') + this.text.slice(this.elementFrom, this.at);
    this.before = [];
    this.beforeLength = 0;
    return { line: this.elementLine, text: text.trim() };
  }
}
