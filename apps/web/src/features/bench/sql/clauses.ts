import type { ClauseOfSql, QueryAnswer } from '@zesty-sieve/contract';
import { lineAt } from '@zesty-sieve/core/language';
import type { MarginLine } from '../../../parts/editor/margin.ts';

/** The first words of a clause, as it is called: SELECT, LEFT JOIN. */
export function clauseName(sql: string, { from, to }: ClauseOfSql): string {
  const text = sql.slice(from, to);
  const words = /^(?:select|from|(?:left(?:\s+outer)?|inner|cross)?\s*join|where|group\s+by|having|order\s+by|limit|offset|fetch)\b/i.exec(
    text,
  )?.[0];
  return words?.replace(/\s+/g, ' ').toUpperCase() ?? (text.startsWith(',') ? 'FROM' : text.split(/\s/)[0]!.toUpperCase());
}

/** The clause that a line of the pipeline came of. */
export function clauseOfLine(clauses: readonly ClauseOfSql[], line: number): ClauseOfSql | undefined {
  return clauses.find(({ lines }) => lines.includes(line));
}

/** The clause at an offset: the innermost that holds it, else the last before it. */
export function clauseAt(clauses: readonly ClauseOfSql[], offset: number): ClauseOfSql | undefined {
  const holding = clauses.filter(({ from, to }) => from <= offset && offset <= to).sort((a, b) => a.to - a.from - (b.to - b.from));
  return holding[0] ?? clauses.findLast(({ from }) => from <= offset);
}

/** The margin of a text of SQL: beside each clause what comes out of the last of its lines, and when it runs. */
export function marginOf(sql: string, clauses: readonly ClauseOfSql[], lines: QueryAnswer['lines']): MarginLine[] {
  const ran = clauses
    .map((clause) => ({ clause, own: lines.filter(({ line }) => clause.lines.includes(line)) }))
    .filter(({ own }) => own.length > 0)
    .sort((a, b) => a.own[0]!.line - b.own[0]!.line);
  const shown = new Map<number, MarginLine>();
  ran.forEach(({ clause, own }, i) => {
    const last = own[own.length - 1]!;
    const line = lineAt(sql, clause.from);
    // Of clauses on one line, the one that runs last tells what comes out.
    const before = shown.get(line)?.timeMs ?? 0;
    const timeMs = own.reduce((sum, one) => sum + one.timeMs, before);
    const isEstimated = own.some(({ timeIsEstimated }) => timeIsEstimated);
    shown.set(line, { line, order: i + 1, rowsIn: last.rowsOut, rowsOut: last.rowsOut, timeMs, stoppedEarly: last.stoppedEarly, ...(isEstimated && { timeIsEstimated: true as const }) }); // prettier-ignore
  });
  return [...shown.values()].sort((a, b) => a.line - b.line);
}
