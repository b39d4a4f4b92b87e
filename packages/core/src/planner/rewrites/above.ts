import type { PlannedStage } from '../logical.ts';
import type { NodeId } from '../../language/places.ts';
import type { SelectItem } from '../../language/stages/stage.ts';
import { fieldNames, type Expression, type PathExpression } from '../../language/tree.ts';
import type { PlannableStage } from '../logical.ts';
import { traitsOf } from '../traits.ts';
import { readsOf, touches } from './reads.ts';
import { continued, isOfRow, leadingNames, withPaths } from '../../language/substitute.ts';

/** An expression on the rows that come out of a stage, as it reads on those that go in; undefined where it cannot. */
export function above(expression: Expression, stage: PlannableStage): Expression | undefined {
  const { decidedBy, gives, keepsOnly, writes } = traitsOf(stage);
  const kept = keepsOnly(stage);
  // Where nothing goes on, a row comes out whatever comes in.
  if (kept !== undefined) return kept.length === 0 ? undefined : throughItems(expression, kept);
  const written = writes(stage);
  // Where others decide what becomes of a row, it matters which come; unless it is its place alone that they decide, as in an order.
  if (decidedBy === 'rows' && (gives(stage) !== 'one' || written.length > 0)) return undefined;
  return written === 'any' || (written.length > 0 && touches(readsOf(expression), written)) ? undefined : expression;
}

/** Fields that a stage keeps or groups by, read where they came from. Only plain paths are followed. */
function throughItems(expression: Expression, items: readonly SelectItem[]): Expression | undefined {
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

/** The stages that something was moved past; marks are none. */
export function idsOf(stages: readonly PlannedStage[]): NodeId[] {
  return [...new Set(stages.filter(({ stage }) => stage.kind !== 'mark').map(({ id }) => id))];
}
