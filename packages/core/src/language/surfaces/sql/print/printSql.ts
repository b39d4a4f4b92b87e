import type { Pipeline } from '../../../pipeline.ts';
import { sqlName } from '../words.ts';
import { Chain } from './chain.ts';
import { Unsaid, type SqlNote } from './writer.ts';

/** A pipeline as SQL; undefined where a stage cannot be said, and then `notes` tells which. */
export interface PrintedSql {
  readonly sql: string | undefined;
  readonly notes: readonly SqlNote[];
}

/** How a pipeline is written: as the SQL that is read here, or as an engine's that has tables `name(id, body)` of JSON. */
export type SqlDialect = 'iso' | 'sqlite' | 'postgresql';

/** Writes a pipeline as SQL. */
export function printSql({ stages, sources = [], findings }: Pipeline, dialect: SqlDialect = 'iso'): PrintedSql {
  if (dialect !== 'iso') return { sql: undefined, notes: [{ line: 1, message: `${dialect} is not written yet.`, unsaid: true }] };
  if (stages.length === 0 || findings.some(({ severity }) => severity === 'error'))
    return { sql: undefined, notes: [{ line: 1, message: 'The pipeline has errors.', unsaid: true }] };
  const members: { name: string; text: string }[] = [];
  const names = new Set<string>(sources.map(({ name }) => name));
  const notes: SqlNote[] = [];
  try {
    for (const source of sources) {
      const chain = new Chain(members, names);
      notes.push(...chain.notes);
      const text = writing(chain, () => chain.write(source.stages), notes);
      members.push({ name: source.name, text });
    }
    const chain = new Chain(members, names);
    const text = writing(chain, () => chain.write(stages), notes);
    const indented = (one: string): string => one.replace(/^/gm, '  ');
    const head =
      members.length === 0 ? '' : `WITH ${members.map((one) => `${sqlName(one.name)} AS (\n${indented(one.text)}\n)`).join(', ')}\n`;
    return { sql: head + text, notes };
  } catch (error) {
    if (error instanceof Unsaid) return { sql: undefined, notes };
    throw error;
  }
}

function writing(chain: Chain, work: () => string, notes: SqlNote[]): string {
  try {
    return work();
  } finally {
    notes.push(...chain.notes);
  }
}
