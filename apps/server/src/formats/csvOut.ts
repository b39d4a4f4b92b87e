import { stringify } from 'csv-stringify/sync';
import { isObject, type Json, type JsonObject } from '@zesty-sieve/core';

/** The leaf paths of documents in order of first appearance: the columns of a CSV. Arrays are leaves. */
export class LeafColumns {
  private readonly places = new Map<string, number>();
  private readonly guardsFormulas: boolean;

  /** @param guardsFormulas whether texts that a spreadsheet would take for formulas get an apostrophe before them (OWASP, CSV injection) */
  constructor(guardsFormulas: boolean) {
    this.guardsFormulas = guardsFormulas;
  }

  add(document: Json): void {
    this.visit(document, '');
  }

  private visit(value: Json, path: string): void {
    if (isObject(value) && Object.keys(value).length > 0) {
      for (const name of Object.keys(value)) this.visit(value[name]!, path === '' ? name : `${path}.${name}`);
    } else if (!this.places.has(path)) {
      this.places.set(path, this.places.size);
    }
  }

  private guarded(text: string): string {
    return this.guardsFormulas && /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
  }

  get header(): string {
    return stringify([[...this.places.keys()].map((name) => this.guarded(name))]);
  }

  row(document: Json): string {
    const cells: string[] = new Array<string>(this.places.size).fill('');
    const quoted: boolean[] = [];
    const visit = (value: Json, path: string): void => {
      if (isObject(value) && Object.keys(value).length > 0) {
        for (const name of Object.keys(value)) visit((value as JsonObject)[name]!, path === '' ? name : `${path}.${name}`);
        return;
      }
      const place = this.places.get(path);
      if (place === undefined) return;
      cells[place] =
        value === null
          ? ''
          : typeof value === 'object'
            ? JSON.stringify(value)
            : typeof value === 'string'
              ? this.guarded(value)
              : String(value);
      // A text that would read as a number, true or false, or as missing, is quoted, so that it stays text.
      quoted[place] = typeof value === 'string';
    };
    visit(document, '');
    return cells.map((cell, i) => (quoted[i] && needsQuotes(cell) ? `"${cell.replaceAll('"', '""')}"` : plainCell(cell))).join(',') + '\n';
  }
}

function needsQuotes(cell: string): boolean {
  return cell === '' || cell === 'true' || cell === 'false' || /^-?\d/.test(cell) || /[",\r\n]/.test(cell);
}

function plainCell(cell: string): string {
  return /[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
}
