import type { Pipeline } from '../../../pipeline.ts';
import { sqlName } from '../words.ts';
import { Chain } from './chain.ts';
import type { Dialect, SqlDialect } from './dialect.ts';
import { isoDialect } from './isoDialect.ts';
import { postgresDialect } from './postgresDialect.ts';
import { sqliteDialect } from './sqliteDialect.ts';
import type { Member } from './selects.ts';
import { Unsaid, type SqlNote } from './writer.ts';

/** A pipeline as SQL; undefined where a stage cannot be said, and then `notes` tells which. */
export interface PrintedSql {
  readonly sql: string | undefined;
  readonly notes: readonly SqlNote[];
}

const dialects: Readonly<Record<SqlDialect, Dialect>> = { iso: isoDialect, sqlite: sqliteDialect, postgresql: postgresDialect };

/** Writes a pipeline as SQL: the one that is read here, or that of an engine with tables `name(id, body)` of JSON. */
export function printSql(
  { stages, sources = [], findings }: Pipeline,
  name: SqlDialect = 'iso',
  rows: 'columns' | 'json' = 'columns',
): PrintedSql {
  const dialect = dialects[name];
  if (stages.length === 0 || findings.some(({ severity }) => severity === 'error'))
    return { sql: undefined, notes: [{ line: 1, message: 'The pipeline has errors.', unsaid: true }] };
  const members: Member[] = [];
  const names = new Set<string>(sources.map(({ name }) => name));
  const notes: SqlNote[] = [];
  try {
    for (const source of sources) {
      const chain = new Chain(dialect, members, names);
      notes.push(...chain.notes);
      const text = writing(chain, () => chain.write(source.stages), notes);
      members.push({ name: source.name, text, columns: chain.outputs() });
    }
    const chain = new Chain(dialect, members, names);
    const text = asked(
      chain,
      writing(chain, () => chain.write(stages), notes),
      dialect,
      rows,
    );
    const last = stages[stages.length - 1]!.line;
    notes.push(...dialect.remarks(chain.block.order.length > 0).map((message): SqlNote => ({ line: last, message, unsaid: false })));
    const indented = (one: string): string => one.replace(/^/gm, '  ');
    const head =
      members.length === 0 ? '' : `WITH ${members.map((one) => `${sqlName(one.name)} AS (\n${indented(one.text)}\n)`).join(', ')}\n`;
    return { sql: head + text, notes };
  } catch (error) {
    if (error instanceof Unsaid) return { sql: undefined, notes };
    throw error;
  }
}

/** The rows as they are wanted: each column by its name, or one column with the row as JSON. */
function asked(chain: Chain, text: string, dialect: Dialect, rows: 'columns' | 'json'): string {
  const names = chain.outputs()?.map(({ target }) => target[0]!);
  const columns = names && [...new Set(names)];
  if (rows === 'columns' || columns === undefined) return text;
  return `SELECT ${dialect.rowAsJson(columns)} AS body\nFROM (\n${text.replace(/^/gm, '  ')}\n) AS answer`;
}

function writing(chain: Chain, work: () => string, notes: SqlNote[]): string {
  try {
    return work();
  } finally {
    notes.push(...chain.notes);
  }
}

export type { SqlDialect };
