import { notationWords } from './surfaces/notation/words.ts';
import type { Environment } from './environment.ts';
import { descend, openTree, type FieldTree } from '../shape/fieldTree.ts';
import { lineAt, type Diagnostic, type Finding } from './diagnostics/diagnostic.ts';
import { findings } from './diagnostics/findings.ts';
import { conditionsIn, manyDocuments, unservedReason } from './diagnostics/unserved.ts';
import { printExpression } from './surfaces/notation/print.ts';
import type { Pipeline, PlacedStage } from './pipeline.ts';
import { checkChange } from './changes/checkChange.ts';
import { aggregates } from './functions/aggregates.ts';
import { lostPath } from './relevancePlace.ts';
import { definitionOf, stageWords } from './stages/registry.ts';
import { isChangeStep, type FromStage, type Stage } from './stages/stage.ts';
import type { StageScope } from './stages/definition.ts';
import { parametersIn, type Expression } from './tree.ts';

export interface CheckedStage {
  readonly placed: PlacedStage;
  /** What the rows look like before and after the stage; the same where it is off. */
  readonly before: FieldTree;
  readonly after: FieldTree;
}

export interface CheckedPipeline {
  readonly pipeline: Pipeline;
  readonly diagnostics: readonly Diagnostic[];
  readonly stages: readonly CheckedStage[];
  /** The collection that it reads, where there is one. */
  readonly source: string | undefined;
}

/** A plan nests its steps, and steps work within one another: threads have the stack for several times as many. */
const mostStages = 3_000;

/** Checks every stage, off ones too, and follows the shape of the rows from line to line. */
export function checkPipeline(pipeline: Pipeline, given: Environment = {}): CheckedPipeline {
  const found: Finding[] = [...pipeline.findings];
  const environment = withSources(pipeline, given, found);
  const stages: CheckedStage[] = [];
  const shapeOf = environment.shapeOf ?? (() => undefined);
  const source = pipeline.stages.map(({ stage }) => stage).find((stage): stage is FromStage => stage?.kind === 'from')?.source;
  let before: FieldTree = openTree;
  // Lines that keep rows as they are give back what they were given.
  let begun: FieldTree = before;
  for (const placed of pipeline.stages) {
    let after = before;
    if (placed.stage !== undefined) {
      const scope: StageScope = {
        current: before,
        whole: before,
        source: before === begun ? source : undefined,
        droppedAt: (names) => droppedAt(stages, names),
        report: (finding) => found.push(finding),
        at: (node) => pipeline.places.of(node),
        words: environment.words ?? notationWords,
        collections: environment.collections,
        shapeOf,
        span: placed,
      };
      const definition = definitionOf(placed.stage.kind);
      definition.check(placed.stage, scope);
      if (!placed.off) after = definition.effect(placed.stage, before, scope);
    } else {
      // What an unreadable stage would have done to the rows is not known.
      after = openTree;
    }
    stages.push({ placed, before, after });
    if (placed.stage?.kind === 'from' && !placed.off) begun = after;
    before = after;
  }
  if (environment.purpose === 'change') {
    found.push(
      ...checkChange(
        pipeline,
        source === undefined ? undefined : shapeOf(source),
        source === undefined ? undefined : environment.identityOf?.(source),
      ),
    );
  } else {
    for (const placed of pipeline.stages) {
      if (placed.stage !== undefined && isChangeStep(placed.stage))
        found.push(findings.stepInPipeline(placed, stageWords(placed.stage.kind)));
    }
  }
  const beyond = pipeline.stages[mostStages];
  if (beyond !== undefined) found.push(findings.tooLong(beyond, mostStages));
  refuseLostRelevance(pipeline, environment, found);
  warnOfOrder(pipeline, found);
  if (source !== undefined && (environment.documentsOf?.(source) ?? 0) >= manyDocuments) warnOfUnserved(pipeline, found);
  const diagnostics = found
    .map((finding): Diagnostic => ({ ...finding, line: lineAt(pipeline.text, finding.from) }))
    .sort((a, b) => a.from - b.from || a.to - b.to);
  return { pipeline, diagnostics, stages, source };
}

/** Words are weighed by the collection of `from`: a path that leads elsewhere by then has no such weight. */
function refuseLostRelevance(pipeline: Pipeline, { words = notationWords }: Environment, found: Finding[]): void {
  const on = pipeline.stages.filter(({ off, stage }) => !off && stage !== undefined);
  const stages = on.map(({ stage }) => stage!);
  on.forEach((_, at) => {
    const lost = lostPath(stages, at);
    if (lost === undefined) return;
    const why = lost.madeBy === undefined ? 'is a partner’s' : `is no field of it after line ${on[lost.madeBy]!.line}`;
    found.push(findings.relevanceLost(pipeline.places.of(lost.path), words.expression(lost.path), why));
  });
}

/** What is known together with the sources that a pipeline brings itself; they are checked on the way. */
function withSources(pipeline: Pipeline, given: Environment, found: Finding[]): Environment {
  let environment = given;
  for (const source of pipeline.sources ?? []) {
    const { text, places } = pipeline;
    const { name, stages } = source;
    if (environment.collections?.includes(name) === true) found.push(findings.sourceTaken(places.of({ id: source.nameId }), name));
    const checked = checkPipeline({ text, places, stages, items: [], findings: [] }, { ...environment, purpose: undefined });
    found.push(...checked.diagnostics);
    const outer = environment;
    const after = checked.stages[checked.stages.length - 1]?.after;
    environment = {
      ...outer,
      ...(outer.collections !== undefined && { collections: [...outer.collections, name] }),
      shapeOf: (one) => (one === name ? after : outer.shapeOf?.(one)),
    };
  }
  return environment;
}

/** The line of the stage after which a field that was there is not any more. */
function droppedAt(stages: readonly CheckedStage[], names: readonly string[]): number | undefined {
  return stages.findLast(({ placed, before, after }) => {
    return placed.stage?.kind !== 'from' && !before.open && descend(before, names) !== undefined && descend(after, names) === undefined;
  })?.placed.line;
}

/** What can be seen from the order of the stages alone. */
function warnOfOrder(pipeline: Pipeline, found: Finding[]): void {
  const on = pipeline.stages.filter((placed) => !placed.off && placed.stage !== undefined);
  on.forEach((placed, i) => {
    const next = on[i + 1];
    if (placed.stage?.kind === 'limit' && next?.stage?.kind === 'offset') {
      const text = (stage: PlacedStage) => pipeline.text.slice(stage.from, stage.to);
      found.push(
        findings.limitBeforeOffset(placed, [
          { from: placed.from, to: placed.to, insert: text(next) },
          { from: next.from, to: next.to, insert: text(placed) },
        ]),
      );
    }
    if (placed.stage?.kind === 'order') {
      const later = on.slice(i + 1).find(({ stage }) => stage !== undefined && usesOrder(stage));
      if (later?.stage?.kind === 'order') found.push(findings.orderLost(placed, stageWords('order')));
    }
  });
}

/** Where none of the conditions that a pipeline begins with can be served by an index, whatever index there is. */
function warnOfUnserved(pipeline: Pipeline, found: Finding[]): void {
  const on = pipeline.stages.filter(({ off }) => !off).slice(1);
  const leading = takeWhile(on, ({ stage }) => stage?.kind === 'where');
  const conditions = leading.flatMap(({ stage }) => (stage?.kind === 'where' ? conditionsIn(stage.condition) : []));
  const following = on[leading.length]?.stage;
  const orderedBy = following?.kind === 'order' ? printExpression(following.keys[0]!.expression) : undefined;
  const reasons = conditions.map((condition) => unservedReason(condition, orderedBy));
  if (reasons.includes(undefined)) return;
  conditions.forEach((condition, i) => found.push(findings.unserved(pipeline.places.of(condition), reasons[i] ?? '')));
}

/** Stages whose answer depends on the order before them; a new order does not, but its ties do not count. */
function usesOrder(stage: Stage): boolean {
  if (stage.kind === 'groupAll') return stage.measures.some(({ aggregate }) => aggregates[aggregate].ordered);
  return stage.kind === 'limit' || stage.kind === 'offset' || stage.kind === 'order' || stage.kind === 'group';
}

/** The names of the parameters that a pipeline uses where it is on, in order of appearance. */
export function parametersOf(pipeline: Pipeline): string[] {
  const all = [...(pipeline.sources ?? []).flatMap(({ stages }) => stages), ...pipeline.stages];
  const names = all.flatMap(({ stage, off }) => (stage === undefined || off ? [] : expressionsOf(stage).flatMap(parametersIn)));
  return [...new Set(names)];
}

/** The expressions that stand directly in a stage. */
export function expressionsOf(stage: Stage): readonly Expression[] {
  return definitionOf(stage.kind).expressions(stage);
}

function takeWhile<T>(items: readonly T[], holds: (item: T) => boolean): readonly T[] {
  const end = items.findIndex((item) => !holds(item));
  return end < 0 ? items : items.slice(0, end);
}
