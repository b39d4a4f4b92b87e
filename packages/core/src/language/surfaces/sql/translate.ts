import { checkPipeline, expressionsOf } from '../../checkPipeline.ts';
import { lineAt, type Diagnostic, type Finding } from '../../diagnostics/diagnostic.ts';
import type { NamedSource, Pipeline, PlacedStage } from '../../pipeline.ts';
import type { NodeId, Places } from '../../places.ts';
import type { Span } from '../../span.ts';
import { definitionOf } from '../../stages/registry.ts';
import { walk } from '../../tree.ts';
import { namedText } from '../notation/printPipeline.ts';
import { ParseFailure } from '../notation/reader.ts';
import { findings } from '../../diagnostics/findings.ts';
import { parseSql } from './parse/parseSql.ts';
import { translateQuery } from './translate/question.ts';
import type { Known, Made, Work } from './translate/work.ts';
import type { SqlExpression, SqlStatement } from './tree.ts';
import { sqlWords } from './words.ts';

/** A clause of a text of SQL, and the 1-based lines of the pipeline that it became. Offsets are UTF-16. */
export interface ClauseLines {
  readonly from: number;
  readonly to: number;
  readonly lines: readonly number[];
}

/** A text of SQL as a pipeline. */
export interface SqlTranslation {
  /** What kind of text it is; undefined where it cannot be read. */
  readonly statement: SqlStatement | undefined;
  /** The pipeline's text in its canonical layout; undefined where there are errors, or where the text asks for no rows of documents. */
  readonly pipeline: string | undefined;
  readonly clauses: readonly ClauseLines[];
  /** Its parameters, each with where it stands first. */
  readonly parameters: readonly ({ readonly name: string } & Span)[];
  /** Errors and warnings, with spans in the SQL. */
  readonly diagnostics: readonly Diagnostic[];
}

/**
 * Translates a text of SQL (ISO/IEC 9075:2023, the subset in docs/sql.md) to a pipeline that gives the same rows. Never throws.
 * @param known the collections, and what their documents look like: a name without its table is looked for in those
 */
export function translateSql(text: string, known: Known = {}): SqlTranslation {
  const { statement, pipeline, clauseOf } = readSql(text, known);
  const { diagnostics } =
    pipeline.stages.length === 0
      ? { diagnostics: pipeline.findings.map((finding): Diagnostic => ({ ...finding, line: lineAt(text, finding.from) })) }
      : checkPipeline(pipeline, { words: sqlWords, collections: known.collections, shapeOf: known.shapeOf });
  const isBroken = pipeline.stages.length === 0 || diagnostics.some(({ severity }) => severity === 'error');
  const parameters = parametersIn(pipeline);
  if (isBroken) return { statement, pipeline: undefined, clauses: [], parameters, diagnostics };
  const written: string[] = [];
  const clauses = new Map<NodeId, number[]>();
  let line = 1;
  const printed = ({ id, stage }: PlacedStage): string => {
    const clause = clauseOf.get(id)!;
    const lines = clauses.get(clause);
    if (lines === undefined) clauses.set(clause, [line]);
    else lines.push(line);
    const text = definitionOf(stage!.kind).print(stage!);
    line += text.split('\n').length;
    return text;
  };
  for (const { name, stages } of pipeline.sources ?? []) {
    line++;
    written.push(namedText(name, stages.map(printed))); // prettier-ignore
  }
  written.push(...pipeline.stages.map(printed));
  const placed = [...clauses].map(([id, of]): ClauseLines => ({ ...pipeline.places.of({ id }), lines: of }));
  return {
    statement,
    pipeline: written.join('\n'),
    clauses: placed.sort((a, b) => a.from - b.from || a.to - b.to),
    parameters,
    diagnostics,
  };
}

function parametersIn({ places, stages, sources = [] }: Pipeline): SqlTranslation['parameters'] {
  const found = new Map<string, Span>();
  for (const { stage } of [...sources.flatMap((source) => source.stages), ...stages]) {
    for (const expression of stage === undefined ? [] : expressionsOf(stage)) {
      walk(expression, (node) => {
        if (node.kind === 'parameter' && !found.has(node.name)) found.set(node.name, places.of(node));
      });
    }
  }
  return [...found].map(([name, { from, to }]) => ({ name, from, to })).sort((a, b) => a.from - b.from);
}

/** Names that stand for fields in a text: those of columns, without the names of their tables. */
function fieldsMentioned(statement: SqlStatement): string[] {
  const aliases = new Set<string>();
  const columns: (SqlExpression & { readonly kind: 'column' })[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) return value.forEach(visit);
    if (typeof value !== 'object' || value === null) return;
    if ('alias' in value && typeof value.alias === 'string' && 'kind' in value && value.kind !== 'expression') aliases.add(value.alias);
    if ('kind' in value && value.kind === 'column') columns.push(value as (typeof columns)[number]);
    Object.values(value).forEach(visit);
  };
  visit(statement);
  return columns.flatMap(({ first, steps: [next] }) => (!aliases.has(first) ? [first] : typeof next === 'string' ? [next] : []));
}

interface ReadSql {
  readonly statement: SqlStatement | undefined;
  readonly pipeline: Pipeline;
  /** The clause that each stage comes of. */
  readonly clauseOf: ReadonlyMap<NodeId, NodeId>;
}

/** Reads a text of SQL as a pipeline whose stages stand where their clauses do. */
export function readSql(text: string, known: Known = {}, firstId?: number): ReadSql {
  const { statement, places, findings: unread } = parseSql(text, firstId);
  const found: Finding[] = [...unread];
  const clauseOf = new Map<NodeId, NodeId>();
  let fields: string[] | undefined;
  const mentioned = (): string[] => (fields ??= statement === undefined ? [] : fieldsMentioned(statement));
  const work: Work = { known, places, text, mentioned, report: (finding) => found.push(finding), sources: [] };
  const place = ({ stage, clause }: Made): PlacedStage => {
    const placed = placedAt(text, places, stage, clause);
    clauseOf.set(placed.id, clause);
    return placed;
  };
  const none: Pipeline = { text, places, stages: [], items: [], findings: found };
  if (statement?.kind !== 'query' && statement?.kind !== 'explain') return { statement, pipeline: none, clauseOf };
  try {
    const stages = translateQuery(statement.query, work).stages.map(place);
    const sources = work.sources.map((source): NamedSource => {
      const span = places.of({ id: source.clause });
      return { name: source.name, nameId: source.clause, stages: source.stages.map(place), ...places.place(span), ...span };
    });
    return { statement, pipeline: { ...none, stages, sources, items: [...sources, ...stages] }, clauseOf };
  } catch (error) {
    if (error instanceof ParseFailure) found.push(error.finding);
    else if (error instanceof RangeError) found.push(findings.tooDeep({ from: 0, to: text.length }, 200));
    else throw error;
    return { statement, pipeline: none, clauseOf };
  }
}

function placedAt(text: string, places: Places, stage: Made['stage'], clause: NodeId): PlacedStage {
  const { from, to } = places.of({ id: clause });
  const { id } = places.place({ from, to });
  return { id, stage, off: false, line: lineAt(text, from), wordFrom: from, comments: [], from, to };
}
