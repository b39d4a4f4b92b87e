import { isChangeStep } from './stages/stage.ts';
import { definitionOf } from './stages/registry.ts';
import { parametersIn, type Expression } from './tree.ts';
import { printExpression } from './surfaces/notation/print.ts';
import { usualSurface } from './surfaces/registry.ts';

/** What a pipeline begins with, up to its first group: what could be kept of it. */
export interface GroupedBeginning {
  /** As it is written, up to the group. */
  readonly text: string;
  /** The 1-based line of the group. */
  readonly line: number;
  /** The same for two beginnings that mean the same, whatever the order of their conditions. */
  readonly canonical: string;
  /** What it begins at. */
  readonly source: string;
}

/** Undefined where it has no group, or where it goes by parameters or the time until then, so that no rows are its own. */
export function groupedBeginning(pipeline: string): GroupedBeginning | undefined {
  const { stages, sources = [] } = usualSurface.parse(pipeline);
  if (sources.length > 0) return undefined;
  const parts: string[] = [];
  let conditions: string[] = [];
  let source = '';
  for (const { stage, off, line } of stages) {
    if (off) continue;
    if (stage === undefined || isChangeStep(stage)) return undefined;
    const definition = definitionOf(stage.kind);
    const expressions = definition.expressions(stage as never);
    if (expressions.some(goesByMore) || stage.kind === 'sample' || stage.kind === 'limit' || stage.kind === 'offset') return undefined;
    if (stage.kind === 'from') source = stage.source;
    if (stage.kind === 'where') {
      conditions.push(
        ...(stage.condition.kind === 'and' ? stage.condition.operands : [stage.condition]).map((one) => printExpression(one)),
      );
      continue;
    }
    if (conditions.length > 0) parts.push(`where ${conditions.sort().join(' && ')}`);
    conditions = [];
    parts.push(definition.print(stage as never));
    if (stage.kind === 'group') return { text: beginningOf(pipeline, stages, line), line, canonical: parts.join('\n'), source };
  }
  return undefined;
}

/** The text up to the next stage that is on its own line. */
function beginningOf(pipeline: string, stages: readonly { readonly line: number }[], line: number): string {
  const next = stages.find((stage) => stage.line > line)?.line;
  return pipeline
    .split('\n')
    .slice(0, next === undefined ? undefined : next - 1)
    .join('\n')
    .trimEnd();
}

const goesByMore = (expression: Expression): boolean =>
  parametersIn(expression).length > 0 || printExpression(expression).includes('now()');
