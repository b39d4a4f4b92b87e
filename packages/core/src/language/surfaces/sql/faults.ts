import type { Finding, Mend } from '../../diagnostics/diagnostic.ts';
import type { Span } from '../../span.ts';

const error = (code: string, span: Span, message: string, mend?: Mend): Finding => ({
  severity: 'error', code: `sql-${code}`, message, from: span.from, to: span.to, ...(mend && { mend }),
}); // prettier-ignore
const writing = (span: Span, insert: string, label = `Write ${insert}`): Mend => ({
  label,
  edits: [{ from: span.from, to: span.to, insert }],
});

/** Everything that can be wrong with a text of SQL, beside what can be wrong with any pipeline. Each names what is taken instead. */
export const faults = {
  openComment: (span: Span) => error('open-comment', span, 'This comment has no closing */.', { label: 'Close it', edits: [{ from: span.to, to: span.to, insert: ' */' }] }), // prettier-ignore
  secondQuestion: (span: Span) => error('second-question', span, 'One question at a time: nothing may follow the semicolon.'),
  stray: (span: Span, found: string) =>
    error('stray-character', span, found === '`' ? 'Names are quoted with " in SQL.' : `${JSON.stringify(found)} has no meaning in SQL. Text stands in ' quotes, an odd name in " quotes.`), // prettier-ignore
  expected: (span: Span, expected: string, found: string, near?: string) =>
    error('expected', span, `Expected ${expected}, found ${found}.${near === undefined ? '' : ` Did you mean ${near}?`}`, near === undefined ? undefined : writing(span, near)), // prettier-ignore
  doubleEquals: (span: Span) => error('double-equals', span, 'Equality is written = in SQL.', writing(span, '=')),
  /** A part of SQL that is not taken, with what is. */
  notTaken: (span: Span, what: string, instead: string, mend?: string) =>
    error('not-taken', span, `${what} is not taken. ${instead}`, mend === undefined ? undefined : writing(span, mend)),
  unknownFunction: (span: Span, name: string, near: string | undefined) =>
    error('unknown-function', span, `There is no function ${name}.${near === undefined ? '' : ` Did you mean ${near}?`}`, near === undefined ? undefined : writing(span, near)), // prettier-ignore
  argumentCount: (span: Span, name: string, takes: string, given: number) =>
    error('argument-count', span, `${name} takes ${takes}; ${given === 1 ? '1 is' : `${given} are`} given.`),
  unknownType: (span: Span, near: string | undefined, all: readonly string[]) =>
    error('unknown-type', span, `There is no such type.${near === undefined ? '' : ` Did you mean ${near}?`} These are taken: ${all.join(', ')}.`, near === undefined ? undefined : writing(span, near)), // prettier-ignore
  badPath: (span: Span, message: string) => error('bad-path', span, `${message}. A path in a JSON function begins with $, such as '$.party.size'.`), // prettier-ignore
  badPattern: (span: Span, why: string) => error('bad-pattern', span, why),
  unknownTable: (span: Span, name: string, known: readonly string[]) =>
    error('unknown-alias', span, `No table of this question is called ${name}.${known.length === 0 ? '' : ` There is ${known.join(', ')}.`}`, known.length === 1 ? writing(span, known[0]!) : undefined), // prettier-ignore
  ambiguous: (span: Span, name: string, written: readonly string[]) =>
    error('ambiguous', span, `${name} may be of several tables. Say which: ${written.join(' or ')}.`, writing(span, written[0]!)),
  sameAlias: (span: Span, name: string) => error('same-alias', span, `Two tables are called ${name} here. Give one of them another name with AS.`), // prettier-ignore
  notGrouped: (span: Span, text: string, grouped: boolean) =>
    error('not-grouped', span, grouped ? `${text} is neither grouped by nor inside an aggregate. Add it to GROUP BY, or take MIN, MAX or JSON_ARRAYAGG of it.` : `${text} stands beside an aggregate of all rows. GROUP BY it, or take it out.`), // prettier-ignore
  misplaced: (span: Span, what: string, where: string, instead: string) => error('misplaced', span, `${what} cannot stand in ${where}. ${instead}`), // prettier-ignore
  badPosition: (span: Span, position: number, columns: number) =>
    error('bad-position', span, `There is no column ${position}: SELECT has ${columns}.`),
  noOrder: (span: Span, name: string) => error('no-order', span, `${name} needs an order: OVER (ORDER BY …).`),
  severalOrders: (span: Span) => error('several-orders', span, 'A question collects in one order: every JSON_ARRAYAGG with the same ORDER BY.'), // prettier-ignore
  notEquality: (span: Span, what: string) =>
    error('not-equality', span, `${what} is taken where it is an equality with a column of the outer question, such as WHERE h.id = b.hutId, and other conditions on its own table.`), // prettier-ignore
  oneColumn: (span: Span) => error('one-column', span, 'A subquery after IN has one column.'),
  mayBeNull: (span: Span, column: string, at: number, word: string) =>
    error('may-be-null', span, `${column} may be NULL, and then NOT IN holds for no row. Leave those out in the subquery.`, {
      label: `Add ${column} IS NOT NULL`,
      edits: [{ from: at, to: at, insert: ` ${word} ${column} IS NOT NULL` }],
    }),
  distinctOrder: (span: Span) => error('distinct-order', span, 'With DISTINCT, rows are ordered by columns that are selected. Add this one to SELECT.'), // prettier-ignore
  onlyTables: (span: Span) => error('from-first', span, 'FROM begins with a table: UNNEST and JSON_TABLE read a column of one that stands before them.'), // prettier-ignore
  noRows: (span: Span) => error('no-from', span, 'A question reads a table. Add FROM and its name.', { label: 'Add FROM', edits: [{ from: span.to, to: span.to, insert: '\nFROM ' }] }), // prettier-ignore
  needsPath: (span: Span, what: string) => error('needs-path', span, `${what} takes a column, such as b.nights.`),
};
