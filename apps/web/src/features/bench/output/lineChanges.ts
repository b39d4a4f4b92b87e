import { fieldChanges, isJoin, isRank, pathText, type CheckedStage, type FieldChanges } from '@zesty-sieve/core/language';
import { createContext, useContext } from 'react';

export type FieldMark = 'added' | 'changed';

/** What the line at the cursor did to the fields. */
export const LineChanges = createContext<LineChange | undefined>(undefined);

/** What a line did to the fields. */
export interface LineChange extends FieldChanges {
  /** Whether it goes on with the rows and adds to them: what it added is what one wants to see first. */
  readonly adds: boolean;
}

export function changesAt(checked: CheckedStage | undefined): LineChange | undefined {
  const stage = checked?.placed.stage;
  if (stage === undefined || checked === undefined) return undefined;
  const changes = fieldChanges(stage, checked.before, checked.after);
  return changes && { ...changes, adds: isJoin(stage) || isRank(stage) || stage.kind === 'compute' || stage.kind === 'best' };
}

/** How a field is marked: as the nearest field that it stands in is. Positions of elements in names are passed over. */
export function useFieldMark(): (names: readonly (string | number)[]) => FieldMark | undefined {
  const changes = useContext(LineChanges);
  return (names) => changes && markOf(changes, names);
}

export function markOf({ added, changed }: FieldChanges, names: readonly (string | number)[]): FieldMark | undefined {
  const at = names.findIndex((name) => typeof name === 'number');
  const fields = (at === -1 ? names : names.slice(0, at)) as readonly string[];
  for (let length = fields.length; length > 0; length--) {
    const path = pathText(fields.slice(0, length));
    if (added.includes(path)) return 'added';
    if (changed.includes(path)) return 'changed';
  }
  return undefined;
}

/** The sign before a marked field's name, and what it means. */
export const marks: Readonly<Record<FieldMark, { readonly sign: string; readonly means: string }>> = {
  added: { sign: '+', means: 'added by this line' },
  changed: { sign: '≠', means: 'given another value by this line' },
};
