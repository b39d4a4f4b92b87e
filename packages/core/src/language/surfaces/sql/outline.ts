import type { Diagnostic } from '../../diagnostics/diagnostic.ts';
import { lineAt } from '../../diagnostics/diagnostic.ts';
import type { Span } from '../../span.ts';
import { parseSql } from './parse/parseSql.ts';
import { tokenizeSql } from './tokens.ts';
import { sqlName } from './words.ts';
import type { SqlExpression, SqlFrom, SqlQuery, SqlStatement } from './tree.ts';

/** What a text of SQL is, without what documents look like. */
export interface SqlOutline {
  /** Undefined where the text cannot be read. */
  readonly statement: SqlStatement | undefined;
  /** The tables that it reads by name, members of WITH aside, each with where it stands first. */
  readonly sources: readonly ({ readonly name: string } & Span)[];
  /** Whether a name's meaning may depend on which table has it, or what is added to a row on what is in it. */
  readonly needsShapes: boolean;
  readonly diagnostics: readonly Diagnostic[];
}

/** A text of SQL with one of its tables called otherwise; all else stays as it was written. */
export function withSqlSource(text: string, name: string, next: string): string {
  const spans: Span[] = [];
  outlined(text, (source, span) => {
    if (source === name) spans.push(span);
  });
  const ordered = spans.sort((a, b) => b.from - a.from);
  return ordered.reduce((written, { from, to }) => written.slice(0, from) + sqlName(next) + written.slice(to), text);
}

export function outlineSql(text: string): SqlOutline {
  const found = new Map<string, Span>();
  const { statement, findings, needsShapes } = outlined(text, (name, span) => {
    if (!found.has(name)) found.set(name, span);
  });
  return {
    statement,
    sources: [...found].map(([name, { from, to }]) => ({ name, from, to })),
    needsShapes,
    diagnostics: findings.map((finding) => ({ ...finding, line: lineAt(text, finding.from) })),
  };
}

function outlined(text: string, tell: (source: string, span: Span) => void) {
  const { statement, findings, places } = parseSql(text);
  if (statement === undefined) tellNamed(text, tell);
  let needsShapes = false;
  const visit = (query: SqlQuery, outer: ReadonlySet<string>): void => {
    const members = new Set(outer);
    for (const member of query.members) {
      visit(member.query, members);
      members.add(member.name);
    }
    // A rank is put beside the fields, under a name that none of them has.
    needsShapes ||= query.body.from.length > 1 || hasWindow(query.body);
    for (const item of query.body.from) visitFrom(item, members);
    for (const inner of queriesIn(query.body)) {
      needsShapes = true;
      visit(inner, members);
    }
  };
  const visitFrom = (item: SqlFrom, members: ReadonlySet<string>): void => {
    if (item.kind !== 'table') return;
    const { source } = item;
    if (source.kind === 'query') visit(source.query, members);
    else if (!members.has(source.name)) tell(source.name, places.of(source));
  };
  if (statement?.kind === 'query' || statement?.kind === 'explain') visit(statement.query, new Set());
  if (statement?.kind === 'describe') tell(statement.name, places.of(statement));
  return { statement, findings, needsShapes };
}

/** The tables of a text that cannot be read yet: whatever stands after FROM and JOIN. */
function tellNamed(text: string, tell: (source: string, span: Span) => void): void {
  const tokens = tokenizeSql(text);
  tokens.forEach((token, i) => {
    const next = tokens[i + 1];
    const isBefore = token.kind === 'name' && token.quoted === undefined && /^(?:from|join|describe)$/i.test(token.text);
    if (isBefore && next?.kind === 'name' && !/^unnest$/i.test(next.text)) tell(next.text, next);
  });
}

const hasWindow = ({ select, orderBy }: SqlQuery['body']): boolean => JSON.stringify([select, orderBy]).includes('"kind":"window"');

/** The subqueries in conditions. */
function queriesIn({ from: _, ...clauses }: SqlQuery['body']): SqlQuery[] {
  const found: SqlQuery[] = [];
  const walk = (value: unknown): void => {
    if (Array.isArray(value)) value.forEach(walk);
    else if (typeof value === 'object' && value !== null) {
      if ('kind' in value && (value.kind === 'inQuery' || value.kind === 'exists'))
        found.push((value as SqlExpression & { kind: 'exists' }).query);
      Object.entries(value).forEach(([key, inner]) => key !== 'query' && walk(inner));
    }
  };
  walk(clauses);
  return found;
}
