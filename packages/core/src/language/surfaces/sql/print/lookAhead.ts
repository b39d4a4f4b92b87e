import type { PlacedStage } from '../../../pipeline.ts';
import { pathText, printExpression } from '../../notation/print.ts';
import type { Item } from './block.ts';
import type { SelectItem } from '../../../stages/stage.ts';
import { walk, type Expression } from '../../../tree.ts';

/** Whether a stage brings another table into a row. */
export const addsTable = ({ stage }: PlacedStage): boolean =>
  stage?.kind === 'unnest' || stage?.kind === 'join' || stage?.kind === 'leftJoin' || stage?.kind === 'gatherJoin';

/** Whether an item of a select is the row itself. */
export const isWholeRow = ({ expression }: SelectItem): boolean => expression.kind === 'path' && expression.segments.length === 0;

/** The item of a select that gives the whole row under a name. */
export function wholeRowIn(stages: readonly PlacedStage[]): SelectItem | undefined {
  const items = stages.flatMap(({ stage }) => (stage?.kind === 'select' ? stage.items : []));
  return items.find(isWholeRow);
}

/** The names that stages put at the top of a row. */
export function targetsIn(stages: readonly PlacedStage[]): ReadonlySet<string> {
  const names = stages.flatMap(({ stage }) =>
    stage !== undefined && 'target' in stage && stage.target !== undefined && 'names' in stage.target ? stage.target.names.slice(0, 1) : [],
  );
  return new Set(names);
}

/** Whether keys of a group are what was selected and nothing else: rows without repeats. */
export function repeats(keys: readonly SelectItem[], selected: readonly Item[] | undefined): boolean {
  const isSame = ({ target, expression }: SelectItem, i: number): boolean =>
    target.join('.') === selected?.[i]?.target.join('.') && printExpression(expression) === pathText(target);
  return keys.length === selected?.length && keys.every(isSame);
}

/** A name that none of those has; it is one of them from then on. */
export function freeName(wanted: string, names: Set<string>): string {
  let name = wanted;
  for (let number = 2; names.has(name); number++) name = `${wanted}_${number}`;
  names.add(name);
  return name;
}

/** Whether an expression reads a field of one of those names at the top of a row. */
export function readsAny(expression: Expression, names: ReadonlySet<string>): boolean {
  let found = false;
  walk(expression, (one) => {
    const [first] = one.kind === 'path' ? one.segments : [];
    const [selector] = first?.selectors ?? [];
    if (selector?.kind === 'name' && names.has(selector.name)) found = true;
  });
  return found;
}
