import type { ExportFormat } from '@zesty-sieve/contract';
import { tableScript, type Json, type ScriptDialect, type TableScript } from '@zesty-sieve/core';
import { LeafColumns } from '../formats/csvOut.ts';
import type { Database } from './database.ts';
import { tableOf } from './table.ts';

const documentsAtOnce = 500;

export interface ExportHow {
  readonly format: ExportFormat;
  /** Whether texts of a CSV that a spreadsheet would take for formulas are kept from being one. */
  readonly guardsFormulas: boolean;
  /** Of `sql`: what stands around the rows. */
  readonly script?: ScriptHow;
}

export interface ScriptHow {
  readonly name: string;
  readonly dialect: ScriptDialect;
  readonly indexes: Parameters<typeof tableScript>[1];
}

/** Reads all documents of a collection in insertion order, a piece of text at a time, from a snapshot that is its own. */
export class Exporter {
  private position = -1;
  private state: 'begin' | 'middle' | 'done' = 'begin';
  private columns: LeafColumns | undefined;
  private readonly database: Database;
  private readonly table: string;
  private readonly format: ExportFormat;
  private readonly guardsFormulas: boolean;
  private readonly script: TableScript | undefined;

  constructor(database: Database, collectionId: number, { format, guardsFormulas, script }: ExportHow) {
    this.script = script && tableScript(script.name, script.indexes, script.dialect);
    this.database = database;
    this.table = tableOf(collectionId);
    this.format = format;
    this.guardsFormulas = guardsFormulas;
  }

  async close(): Promise<void> {
    this.state = 'done';
    await this.database.close();
  }

  async next(): Promise<string | null> {
    if (this.state === 'done') return null;
    let piece = this.state === 'begin' ? await this.opening() : '';
    const isFirst = this.state === 'begin';
    this.state = 'middle';
    const documents = await this.documents();
    const bodies = documents.map(({ body }) => body);
    piece += this.script === undefined ? this.written(bodies, isFirst) : this.script.rows(documents);
    if (bodies.length < documentsAtOnce) {
      this.state = 'done';
      if (this.format === 'json') piece += '\n]\n';
      piece += this.script?.after ?? '';
    }
    return piece;
  }

  private async bodies(): Promise<string[]> {
    return (await this.documents()).map(({ body }) => body);
  }

  private async documents(): Promise<{ identity: string; body: string }[]> {
    const rows = await this.database.all<{ position: number; identity: string; body: string }>(
      `SELECT position, identity, body FROM ${this.table} WHERE position > ? ORDER BY position LIMIT ${documentsAtOnce}`,
      [this.position],
    );
    if (rows.length > 0) this.position = rows[rows.length - 1]!.position;
    return rows;
  }

  /** A CSV names its columns first, so its documents are gone through twice. */
  private async opening(): Promise<string> {
    if (this.format !== 'csv') return this.format === 'json' ? '[\n' : (this.script?.before ?? '');
    this.columns = new LeafColumns(this.guardsFormulas);
    for (let bodies = await this.bodies(); bodies.length > 0; bodies = await this.bodies()) {
      for (const body of bodies) this.columns.add(JSON.parse(body) as Json);
    }
    this.position = -1;
    return this.columns.header;
  }

  private written(bodies: readonly string[], isFirst: boolean): string {
    const { columns } = this;
    if (columns) return bodies.map((body) => columns.row(JSON.parse(body) as Json)).join('');
    // A text that came as a part of a larger one may hold line breaks, which separate the documents here.
    if (this.format === 'ndjson')
      return bodies.map((body) => (body.includes('\n') || body.includes('\r') ? body.replace(/[\r\n]+/g, ' ') : body) + '\n').join('');
    return (isFirst || bodies.length === 0 ? '' : ',\n') + bodies.join(',\n');
  }
}
