import { checkPipeline, expressionsOf } from '../language/checkPipeline.ts';
import { lineAt, type Diagnostic } from '../language/diagnostics/diagnostic.ts';
import { findings } from '../language/diagnostics/findings.ts';
import { surfaceNamed, type SurfaceName } from '../language/surfaces/registry.ts';
import { viewsRead, type View, type Views } from '../language/sources.ts';
import type { NodeId } from '../language/places.ts';
import type { Pipeline } from '../language/pipeline.ts';
import { Reading } from './reading.ts';
import { isChangeStep, type PipelineStage, type Stage } from '../language/stages/stage.ts';
import { walk, type Expression, type Parameter } from '../language/tree.ts';
import { conditionParametersIn, conditionProblems } from '../language/conditionParameters.ts';
import type { PlannedStage } from '../planner/logical.ts';
import type { Json } from '../values/json.ts';
import type { EngineProblem } from './requests.ts';

export type ReadStage = PlannedStage<PipelineStage>;

/** A pipeline read and checked. */
export interface ReadPipeline {
  readonly stages: readonly ReadStage[];
  readonly diagnostics: readonly Diagnostic[];
  /** Where all of it stands. */
  readonly reading: Reading;
}

/** How a text is read, and how much of it. */
export interface Extent {
  readonly surface?: SurfaceName;
  /** Only the stages up to this 1-based line. */
  readonly throughLine?: number;
  /** Only the stages up to this one. */
  readonly throughStage?: NodeId;
}

/**
 * Reads a pipeline for planning, and checks the views that it names.
 */
export function readPipeline(text: string, collections: readonly string[], views: Views, extent: Extent = {}): ReadPipeline {
  const { throughLine, throughStage } = extent;
  const surface = surfaceNamed(extent.surface);
  const pipeline = surface.parse(text);
  const reading = new Reading(pipeline, views, surface);
  const { diagnostics } = checkPipeline(pipeline, { words: surface.words, collections: [...collections, ...views.keys()] });
  const through = (line: number) => throughLine === undefined || line <= throughLine;
  const found = diagnostics.filter(({ line }) => through(line));
  const written = pipeline.stages.flatMap((placed): ReadStage[] =>
    placed.stage === undefined ||
    isChangeStep(placed.stage) ||
    placed.off ||
    !through(placed.line) ||
    placed.id > (throughStage ?? Infinity)
      ? []
      : [{ stage: placed.stage, id: placed.id }],
  );
  const [first] = written;
  if (first?.stage.kind !== 'from') return { stages: written, diagnostics: found, reading };
  const beside = (pipeline.sources ?? []).flatMap(({ stages }) => stages).flatMap(({ stage, id }) => (stage === undefined ? [] : [{ stage, id }])); // prettier-ignore
  const problems = [...beside, ...written].flatMap(({ stage, id }): Diagnostic[] => {
    const source = 'source' in stage ? stage.source : undefined;
    const view = source === undefined ? undefined : views.get(source);
    if (source === undefined || view === undefined || !('sourceId' in stage)) return [];
    const wrong = viewProblem(source, collections, views);
    return wrong === undefined
      ? []
      : [{ ...findings.brokenView(reading.placeOf({ id: stage.sourceId }), source, wrong), line: reading.lineOf(id) }];
  });
  return { stages: written, diagnostics: [...found, ...problems], reading };
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

function problemWithin({ pipeline, parameters, surface }: View, names: readonly string[]): string | undefined {
  const read = surfaceNamed(surface).parse(pipeline);
  const error = checkPipeline(read, { words: surfaceNamed(surface).words, collections: names }).diagnostics.find(
    ({ severity }) => severity === 'error',
  );
  if (error !== undefined) return `line ${error.line} of it: ${error.message}`;
  // What a view means does not depend on who reads it: values given to a reader are not its own.
  const on = stagesOn(read);
  const [unbound] = unboundIn(on, (parameters ?? {}) as Readonly<Record<string, Json>>, read);
  if (unbound?.code === 'bad-condition') return `line ${unbound.line} of it: ${unbound.message}`;
  return (
    unbound &&
    `line ${unbound.line} of it: ${pipeline.slice(unbound.from, unbound.to)} has no value, and a view has only those that were saved with it`
  );
}

/** The stages of a pipeline that are on, and those of its own sources. */
export function stagesOn({ stages, sources = [] }: Pick<Pipeline, 'stages' | 'sources'>): Stage[] {
  return [...sources.flatMap((source) => source.stages), ...stages].flatMap(({ stage, off }) =>
    stage === undefined || off ? [] : [stage],
  );
}

/** Parameters without a value, as diagnostics at their places. */
export function unboundIn(
  stages: readonly Stage[],
  parameters: Readonly<Record<string, Json>>,
  { text, places }: Pick<Pipeline, 'text' | 'places'>,
): Diagnostic[] {
  const found: Diagnostic[] = [];
  for (const stage of stages) {
    // A condition that is not given holds.
    const conditions = new Set<Expression>(conditionParametersIn(stage));
    for (const expression of expressionsOf(stage)) {
      walk(expression, (node) => {
        if (
          node.kind !== 'parameter' ||
          conditions.has(node) ||
          (Object.hasOwn(parameters, node.name) && parameters[node.name] !== undefined)
        )
          return;
        found.push(unboundAt(node, { text, places }));
      });
    }
  }
  return [...found, ...conditionProblems(stages, parameters, { text, places })];
}

/** A parameter without a value, at its place. */
export function unboundAt(node: Parameter, { text, places }: Pick<Pipeline, 'text' | 'places'>): Diagnostic {
  return { ...findings.unboundParameter(places.of(node), node.name), line: lineAt(text, places.of(node).from) };
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
