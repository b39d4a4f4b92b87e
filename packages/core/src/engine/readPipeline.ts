import { checkPipeline, expressionsOf } from '../language/checkPipeline.ts';
import { lineAt, type Diagnostic } from '../language/diagnostics/diagnostic.ts';
import { findings } from '../language/diagnostics/findings.ts';
import { parsePipeline } from '../language/parsePipeline.ts';
import { viewsRead, type Views } from '../language/sources.ts';
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
  const begin = viewStages(first.stage.source, views, first.line);
  return { stages: begin === undefined ? written : [...begin, ...written.slice(1)], written, diagnostics: found };
}

/** What is wrong with a view, in words; undefined where nothing is. */
function viewProblem(name: string, collections: readonly string[], views: Views): string | undefined {
  const view = views.get(name);
  if (view === undefined) return undefined;
  if (viewsRead(view.pipeline, views).has(name)) return 'it reads itself, directly or through other views';
  const { diagnostics } = checkPipeline(parsePipeline(view.pipeline), { collections: [...collections, ...views.keys()] });
  const error = diagnostics.find(({ severity }) => severity === 'error');
  return error && `line ${error.line} of it: ${error.message}`;
}

/** The stages of a view as they stand for the line that names it; undefined for a collection. */
export function viewStages(name: string, views: Views, line: number): ReadStage[] | undefined {
  const view = views.get(name);
  if (view === undefined) return undefined;
  const own = parsePipeline(view.pipeline).stages.flatMap((placed): ReadStage[] =>
    placed.stage === undefined || isChangeStep(placed.stage) || placed.off
      ? []
      : [{ stage: bound(placed.stage, view.parameters ?? {}), line, placed }],
  );
  const [first, ...rest] = own;
  const begin = first?.stage.kind === 'from' ? (viewStages(first.stage.source, views, line) ?? [first]) : [];
  return withWheresJoined([...begin, ...rest]);
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

/** A view's stage with the values that were saved with it in the places of its parameters. */
function bound(stage: PipelineStage, parameters: Readonly<Record<string, unknown>>): PipelineStage {
  const visit = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(visit);
    if (typeof value !== 'object' || value === null) return value;
    const node = value as { kind?: string; name?: string; from?: number; to?: number };
    if (node.kind === 'parameter' && node.name !== undefined && Object.hasOwn(parameters, node.name)) {
      return literalOf(parameters[node.name] as Json, { from: node.from ?? 0, to: node.to ?? 0 });
    }
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, visit(inner)]));
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
