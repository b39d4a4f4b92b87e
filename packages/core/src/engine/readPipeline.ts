import { checkPipeline, expressionsOf } from '../language/checkPipeline.ts';
import { lineAt, type Diagnostic } from '../language/diagnostics/diagnostic.ts';
import { findings } from '../language/diagnostics/findings.ts';
import { parsePipeline } from '../language/parsePipeline.ts';
import { viewsRead, type View, type Views } from '../language/sources.ts';
import type { Span } from '../language/span.ts';
import { isChangeStep, type PipelineStage, type Stage, type WhereStage } from '../language/stages/stage.ts';
import { walk, type Expression } from '../language/tree.ts';
import type { PlannedStage } from '../planner/logical.ts';
import type { Json } from '../values/json.ts';
import type { EngineProblem } from './requests.ts';

export type ReadStage = PlannedStage<PipelineStage>;

/** A pipeline read and checked; its views are in their places. */
export interface ReadPipeline {
  readonly stages: readonly ReadStage[];
  /** The stages as they are written, for what is told of lines. */
  readonly written: readonly ReadStage[];
  readonly diagnostics: readonly Diagnostic[];
}

/**
 * Reads a pipeline for planning. A view that it begins with is put in its place, so that it is planned through to its
 * collection and never computed apart.
 * @param throughLine only the stages up to this line
 */
export function readPipeline(text: string, collections: readonly string[], views: Views, throughLine?: number): ReadPipeline {
  const pipeline = parsePipeline(text);
  const { diagnostics } = checkPipeline(pipeline, { collections: [...collections, ...views.keys()] });
  const through = (line: number) => throughLine === undefined || line <= throughLine;
  const found = diagnostics.filter(({ line }) => through(line));
  const written = pipeline.stages.flatMap((placed): ReadStage[] =>
    placed.stage === undefined || isChangeStep(placed.stage) || placed.off || !through(placed.line)
      ? []
      : [{ stage: placed.stage, line: placed.line, placed }],
  );
  const [first] = written;
  if (first?.stage.kind !== 'from') return { stages: written, written, diagnostics: found };
  const problems = written.flatMap(({ stage, line }): Diagnostic[] => {
    const source = 'source' in stage ? stage.source : undefined;
    const view = source === undefined ? undefined : views.get(source);
    if (source === undefined || view === undefined || !('sourceSpan' in stage)) return [];
    const wrong = viewProblem(source, collections, views);
    return wrong === undefined ? [] : [{ ...findings.brokenView(stage.sourceSpan, source, wrong), line }];
  });
  if (problems.length > 0) return { stages: written, written, diagnostics: [...found, ...problems] };
  const begin = viewStages(first.stage.source, views, { line: first.line, ...first.stage.sourceSpan });
  return { stages: begin === undefined ? written : [...begin, ...written.slice(1)], written, diagnostics: found };
}

/** What is wrong with a view or one that it reads, in words; undefined where nothing is. */
function viewProblem(name: string, collections: readonly string[], views: Views): string | undefined {
  const view = views.get(name);
  if (view === undefined) return undefined;
  const read = viewsRead(view.pipeline, views);
  if (read.has(name)) return 'it reads itself, directly or through other views';
  const own = problemWithin(view, [...collections, ...views.keys()]);
  if (own !== undefined) return own;
  for (const other of read) {
    const found = views.get(other);
    const problem = found && problemWithin(found, [...collections, ...views.keys()]);
    if (problem !== undefined) return `it reads ${other}, and ${problem}`;
  }
  return undefined;
}

function problemWithin({ pipeline, parameters }: View, names: readonly string[]): string | undefined {
  const read = parsePipeline(pipeline);
  const error = checkPipeline(read, { collections: names }).diagnostics.find(({ severity }) => severity === 'error');
  if (error !== undefined) return `line ${error.line} of it: ${error.message}`;
  // What a view means does not depend on who reads it: values given to a reader are not its own.
  const on = read.stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
  const [unbound] = unboundIn(on, (parameters ?? {}) as Readonly<Record<string, Json>>, pipeline);
  return (
    unbound &&
    `line ${unbound.line} of it: ${pipeline.slice(unbound.from, unbound.to)} has no value, and a view has only those that were saved with it`
  );
}

/** The stages of a view as they stand for the line that names it, at the place of its name; undefined for a collection. */
export function viewStages(name: string, views: Views, { line, from, to }: Place): ReadStage[] | undefined {
  const view = views.get(name);
  if (view === undefined) return undefined;
  const own = parsePipeline(view.pipeline).stages.flatMap((placed): ReadStage[] =>
    placed.stage === undefined || isChangeStep(placed.stage) || placed.off
      ? []
      : [{ stage: bound(placed.stage, view.parameters ?? {}, { from, to }), line, placed }],
  );
  const [first, ...rest] = own;
  const begin = first?.stage.kind === 'from' ? (viewStages(first.stage.source, views, { line, from, to }) ?? [first]) : [];
  return withWheresJoined([...begin, ...rest]);
}

/** Where a source is named in the text that is run. */
export interface Place extends Span {
  readonly line: number;
}

/** The view whose stages were put at a place of a text; undefined where the text stands there itself. */
export function viewAt(text: string, { from, to }: Span): string | undefined {
  for (const { stage } of parsePipeline(text).stages) {
    if (stage === undefined || !('sourceSpan' in stage)) continue;
    if (stage.sourceSpan.from === from && stage.sourceSpan.to === to) return stage.source;
  }
  return undefined;
}

/** Conditions that follow one another are one: they all work for the same line. */
function withWheresJoined(stages: readonly ReadStage[]): ReadStage[] {
  const joined: ReadStage[] = [];
  for (const one of stages) {
    const before = joined[joined.length - 1];
    if (one.stage.kind === 'where' && before?.stage.kind === 'where') {
      const [a, b] = [before.stage.condition, one.stage.condition];
      const stage: WhereStage = {
        kind: 'where',
        condition: {
          kind: 'and',
          operands: [a, b].flatMap((condition) => (condition.kind === 'and' ? condition.operands : [condition])),
          from: a.from,
          to: b.to,
        },
      };
      joined[joined.length - 1] = { ...before, stage };
    } else joined.push(one);
  }
  return joined;
}

/**
 * A view's stage with the values that were saved with it in the places of its parameters. All of it stands where the view is
 * named: its own places are places of another text.
 */
function bound(stage: PipelineStage, parameters: Readonly<Record<string, unknown>>, at: Span): PipelineStage {
  const visit = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(visit);
    if (typeof value !== 'object' || value === null) return value;
    const node = value as { kind?: string; name?: string; from?: number };
    if (node.kind === 'parameter' && node.name !== undefined && Object.hasOwn(parameters, node.name))
      return literalOf(parameters[node.name] as Json, at);
    const copy = Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, visit(inner)]));
    return typeof node.from === 'number' ? { ...copy, from: at.from, to: at.to } : copy;
  };
  return visit(stage) as PipelineStage;
}

function literalOf(value: Json, span: { from: number; to: number }): Expression {
  if (Array.isArray(value)) return { kind: 'array', items: value.map((item) => literalOf(item, span)), ...span };
  if (typeof value === 'object' && value !== null)
    return { kind: 'object', entries: Object.entries(value).map(([name, inner]) => ({ name, value: literalOf(inner, span) })), ...span };
  return { kind: 'literal', value, ...span };
}

/** Parameters without a value, as diagnostics at their places. */
export function unboundIn(stages: readonly Stage[], parameters: Readonly<Record<string, Json>>, text: string): Diagnostic[] {
  const found: Diagnostic[] = [];
  for (const stage of stages) {
    for (const expression of expressionsOf(stage)) {
      walk(expression, (node) => {
        if (node.kind !== 'parameter' || (Object.hasOwn(parameters, node.name) && parameters[node.name] !== undefined)) return;
        found.push({ ...findings.unboundParameter(node, node.name), line: lineAt(text, node.from) });
      });
    }
  }
  return found;
}

/** The problem of a pipeline with errors. */
export function invalid(diagnostics: readonly Diagnostic[]): EngineProblem {
  const [first, ...more] = diagnostics;
  const rest = more.length === 0 ? '' : ` There ${more.length === 1 ? 'is 1 more' : `are ${more.length} more`}.`;
  return {
    kind: 'pipeline',
    message: first === undefined ? 'The pipeline cannot be run.' : `Line ${first.line}: ${first.message}${rest}`,
    diagnostics,
  };
}
