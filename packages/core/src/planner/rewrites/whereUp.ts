import { printExpression } from '../../language/grammar/print.ts';
import { isJoin, type PipelineStage, type WhereStage } from '../../language/stages/stage.ts';
import { fieldNames, type Expression, type PathExpression } from '../../language/tree.ts';
import { conjunctsOf, joined } from '../conjuncts.ts';
import { isStage, type PlannableStage, type PlannedStage, type RewriteRule } from '../logical.ts';
import { readsOf, touches } from './reads.ts';
import { continued, isOfRow, leadingNames, withPaths } from './substitute.ts';

/**
 * Moves conditions before stages that do not change what they read: what they drop is then not computed, joined,
 * taken apart or sorted, and an index may serve them.
 */
export const whereUp: RewriteRule = (stages) => {
  for (let at = 2; at < stages.length; at++) {
    const here = stages[at];
    if (!isStage(here, 'where')) continue;
    let to = at;
    const conjuncts = conjunctsOf(here.stage.condition, here.line);
    let moved = conjuncts.map(({ expression }): Expression | undefined => expression);
    // As far up as one of them goes; the others stay where they are.
    while (to > 1) {
      const before = stages[to - 1];
      const next = moved.map((condition) => condition && above(condition, before.stage));
      if (next.every((condition) => condition === undefined)) break;
      moved = next;
      to--;
    }
    // Past conditions and marks alone nothing is won.
    if (stages.slice(to, at).every(({ stage }) => stage.kind === 'where' || stage.kind === 'mark')) continue;
    const staying = conjuncts.filter((_, i) => moved[i] === undefined);
    const goes = moved.filter((condition) => condition !== undefined);
    const condition =
      goes.length === 1
        ? goes[0]
        : ({ kind: 'and', operands: goes, from: here.stage.condition.from, to: here.stage.condition.to } as const);
    const up: PlannedStage<WhereStage> = { ...here, uncounted: true, stage: { kind: 'where', condition } };
    const rest = joined(staying);
    const left: PlannedStage =
      rest === undefined ? { ...here, stage: { kind: 'mark' } } : { ...here, stage: { kind: 'where', condition: rest } };
    return {
      stages: [...stages.slice(0, to), up, ...stages.slice(to, at), left, ...stages.slice(at + 1)],
      told: { detail: `${printExpression(condition)} is tested before ${linesText(stages.slice(to, at))}`, lines: [here.line] },
    };
  }
  return undefined;
};

function linesText(stages: readonly PlannedStage[]): string {
  const lines = [...new Set(stages.filter(({ stage }) => stage.kind !== 'mark').map(({ line }) => line))];
  return `line${lines.length === 1 ? '' : 's'} ${lines.join(', ')}`;
}

/** A condition as it reads before a stage; undefined where it cannot be tested there. */
function above(condition: Expression, stage: PlannableStage): Expression | undefined {
  switch (stage.kind) {
    case 'mark':
    case 'where':
    case 'order':
      return condition;
    case 'compute':
      return touches(
        readsOf(condition),
        stage.assignments.map(({ target }) => target),
      )
        ? undefined
        : condition;
    case 'unnest':
      return touches(readsOf(condition), [stage.target.names, ...(stage.position ? [stage.position.names] : [])]) ? undefined : condition;
    case 'omit': {
      const targets = stage.paths.map(fieldNames);
      return targets.includes(undefined) || touches(readsOf(condition), targets as string[][]) ? undefined : condition;
    }
    case 'select':
    case 'group':
      return throughItems(condition, stage);
    default:
      return isJoin(stage as PipelineStage) && 'target' in stage && !touches(readsOf(condition), [stage.target.names])
        ? condition
        : undefined;
  }
}

/** Fields that a stage keeps or groups by, read where they came from. Only plain paths are followed. */
function throughItems(condition: Expression, stage: PlannableStage & { kind: 'select' | 'group' }): Expression | undefined {
  const items = stage.kind === 'select' ? stage.items : stage.keys;
  let isSafe = true;
  const rewritten = withPaths(condition, (path, { inFilter }) => {
    if (!isOfRow(path, inFilter)) return undefined;
    const names = leadingNames(path);
    const item = items.find(
      ({ target, expression }) =>
        expression.kind === 'path' &&
        expression.root.kind !== 'partner' &&
        fieldNames(expression) !== undefined &&
        target.length <= names.length &&
        target.every((name, i) => name === names[i]),
    );
    if (item === undefined) {
      isSafe = false;
      return undefined;
    }
    return continued({ ...(item.expression as PathExpression), root: path.root }, path, item.target.length);
  });
  return isSafe && readsOf(condition) !== 'all' ? rewritten : undefined;
}
