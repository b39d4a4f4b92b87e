import { isJoin, type PipelineStage } from '../../language/stages/stage.ts';
import { fieldNames, type Expression, type PathExpression } from '../../language/tree.ts';
import type { PlannableStage } from '../logical.ts';
import { readsOf, touches } from './reads.ts';
import { continued, isOfRow, leadingNames, withPaths } from '../../language/substitute.ts';

/** An expression on the rows that come out of a stage, as it reads on those that go in; undefined where it cannot. */
export function above(expression: Expression, stage: PlannableStage): Expression | undefined {
  switch (stage.kind) {
    case 'mark':
    case 'where':
    case 'order':
      return expression;
    case 'compute':
      return touches(
        readsOf(expression),
        stage.assignments.map(({ target }) => target),
      )
        ? undefined
        : expression;
    case 'unnest':
      return touches(readsOf(expression), [stage.target.names, ...(stage.position ? [stage.position.names] : [])]) ? undefined : expression;
    case 'omit': {
      const targets = stage.paths.map(fieldNames);
      return targets.includes(undefined) || touches(readsOf(expression), targets as string[][]) ? undefined : expression;
    }
    case 'select':
    case 'group':
      return throughItems(expression, stage);
    default:
      return isJoin(stage as PipelineStage) && 'target' in stage && !touches(readsOf(expression), [stage.target.names])
        ? expression
        : undefined;
  }
}

/** Fields that a stage keeps or groups by, read where they came from. Only plain paths are followed. */
function throughItems(expression: Expression, stage: PlannableStage & { kind: 'select' | 'group' }): Expression | undefined {
  const items = stage.kind === 'select' ? stage.items : stage.keys;
  let isSafe = true;
  const rewritten = withPaths(expression, (path, { inFilter }) => {
    if (!isOfRow(path, inFilter)) return undefined;
    const names = leadingNames(path);
    const item = items.find(
      ({ target, expression: kept }) =>
        kept.kind === 'path' &&
        kept.root.kind !== 'partner' &&
        fieldNames(kept) !== undefined &&
        target.length <= names.length &&
        target.every((name, i) => name === names[i]),
    );
    if (item === undefined) {
      isSafe = false;
      return undefined;
    }
    return continued({ ...(item.expression as PathExpression), root: path.root }, path, item.target.length);
  });
  return isSafe && readsOf(expression) !== 'all' ? rewritten : undefined;
}

/** The lines of stages that something was moved past, in words. */
export function passedLines(stages: readonly { readonly stage: PlannableStage; readonly line: number }[]): string {
  const lines = [...new Set(stages.filter(({ stage }) => stage.kind !== 'mark').map(({ line }) => line))];
  return `line${lines.length === 1 ? '' : 's'} ${lines.join(', ')}`;
}
