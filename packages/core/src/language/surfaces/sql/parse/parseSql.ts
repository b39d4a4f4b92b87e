import { findings } from '../../../diagnostics/findings.ts';
import type { Finding } from '../../../diagnostics/diagnostic.ts';
import type { Places } from '../../../places.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { SqlReader } from '../sqlReader.ts';
import type { SqlStatement } from '../tree.ts';
import { parseExpression, parseSum } from './expressions.ts';
import { parseQuery, parseStatement } from './query.ts';

export interface ParsedSql {
  readonly text: string;
  readonly places: Places;
  /** Undefined where the text cannot be read; then there is a finding. */
  readonly statement: SqlStatement | undefined;
  readonly findings: readonly Finding[];
  /** Where the names begin that were read, and how far the text was: in what comes after, nothing is known to be a name. */
  readonly names: ReadonlySet<number>;
  readonly readTo: number;
}

/** Reads a text of SQL. Never throws: what cannot be read becomes a finding. */
export function parseSql(text: string, firstId?: number): ParsedSql {
  const reader = new SqlReader(text, { expression: parseExpression, sum: parseSum, query: parseQuery }, firstId);
  const { places, names } = reader;
  const failed = (finding: Finding): ParsedSql => ({
    text,
    places,
    statement: undefined,
    findings: [finding],
    names,
    readTo: reader.token.from,
  });
  try {
    return { text, places, statement: parseStatement(reader), findings: [], names, readTo: text.length };
  } catch (error) {
    if (error instanceof ParseFailure) return failed(error.finding);
    // Brackets that do not count as a level of their own may still be too many.
    if (error instanceof RangeError) return failed(findings.tooDeep({ from: 0, to: text.length }, 200));
    throw error;
  }
}
