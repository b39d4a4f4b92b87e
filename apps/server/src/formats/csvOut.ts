import { stringify } from 'csv-stringify/sync';
import { isObject, type Json } from '@zesty-sieve/core';

/** A path that documents have: what lies below it, and its column where a value stands there. */
interface Place {
  readonly names: readonly string[];
  readonly below: Map<string, Place>;
  column: number | undefined;
}

/**
 * The leaf paths of documents in order of first appearance: the columns of a CSV. Arrays are leaves. A column is called by its names with
 * dots between; where another is called so already, since a name has a dot in it, its names stand in quotes.
 */
export class LeafColumns {
  private readonly root: Place = { names: [], below: new Map(), column: undefined };
  private readonly labels: string[] = [];
  private readonly taken = new Set<string>();
  private readonly guardsFormulas: boolean;

  /** @param guardsFormulas whether texts that a spreadsheet would take for formulas get an apostrophe before them (OWASP, CSV injection) */
  constructor(guardsFormulas: boolean) {
    this.guardsFormulas = guardsFormulas;
  }

  add(document: Json): void {
    this.visit(document, this.root);
  }

  private visit(value: Json, place: Place): void {
    if (isObject(value) && Object.keys(value).length > 0) {
      for (const name of Object.keys(value)) {
        let below = place.below.get(name);
        if (below === undefined) place.below.set(name, (below = { names: [...place.names, name], below: new Map(), column: undefined }));
        this.visit(value[name]!, below);
      }
    } else if (place.column === undefined) {
      const label = this.labelOf(place);
      this.taken.add(label);
      place.column = this.labels.push(label) - 1;
    }
  }

  private labelOf({ names }: Place): string {
    const label = names.join('.');
    return this.taken.has(label) ? names.map((name) => JSON.stringify(name)).join('.') : label;
  }

  private guarded(text: string): string {
    return this.guardsFormulas && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  }

  get header(): string {
    return stringify([this.labels.map((name) => this.guarded(name))]);
  }

  row(document: Json): string {
    const cells: string[] = new Array<string>(this.labels.length).fill('');
    this.write(document, this.root, cells);
    return cells.join(',') + '\n';
  }

  private write(value: Json, place: Place, cells: string[]): void {
    if (isObject(value) && Object.keys(value).length > 0) {
      for (const name of Object.keys(value)) {
        const below = place.below.get(name);
        if (below !== undefined) this.write(value[name]!, below, cells);
      }
    } else if (place.column !== undefined) {
      cells[place.column] = this.cell(value);
    }
  }

  /** A text that would read as a number, true or false, or as missing, is quoted, so that it stays text. */
  private cell(value: Json): string {
    if (value === null) return '';
    if (typeof value === 'object') return plainCell(JSON.stringify(value));
    if (typeof value !== 'string') return String(value);
    const text = this.guarded(value);
    return needsQuotes(text) ? `"${text.replaceAll('"', '""')}"` : text;
  }
}

function needsQuotes(cell: string): boolean {
  return cell === '' || cell === 'true' || cell === 'false' || /^-?\d/.test(cell) || /[",\r\n]/.test(cell);
}

function plainCell(cell: string): string {
  return /[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
}
