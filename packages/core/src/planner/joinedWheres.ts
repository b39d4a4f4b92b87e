import type { Expression } from '../language/tree.ts';
import { isStage, type PlannedStage } from './logical.ts';

/** The parts of a condition that have to hold together. */
export const partsOf = (condition: Expression): readonly Expression[] => (condition.kind === 'and' ? condition.operands : [condition]);

/**
 * Conditions that follow one another as one.
 * @param counted which of their stages stands for them: where rows are counted
 */
export function withWheresJoined(stages: readonly PlannedStage[], counted: 'first' | 'last'): readonly PlannedStage[] {
  const joined: PlannedStage[] = [];
  for (const one of stages) {
    const before = joined.at(-1);
    if (isStage(one, 'where') && isStage(before, 'where')) {
      const operands = [...partsOf(before.stage.condition), ...partsOf(one.stage.condition)];
      const condition: Expression = { kind: 'and', operands, id: before.stage.condition.id };
      joined[joined.length - 1] = { ...(counted === 'first' ? before : one), stage: { kind: 'where', condition } };
    } else joined.push(one);
  }
  return joined;
}
