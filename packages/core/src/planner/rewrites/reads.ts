import { definitionOf } from '../../language/stages/registry.ts';
import { overlap, type Chain } from '../../language/stages/traits.ts';
import type { PlannableStage } from '../logical.ts';
import { namesAll, traitsOf } from '../traits.ts';
import { children, type Expression } from '../../language/tree.ts';

/** The fields of the row that something reads, as chains of names; `all` where it may read any. */
export type Reads = readonly (readonly string[])[] | 'all';

/** What an expression reads of the row. Inside a filter `@` is an element, and `$` the row. */
export function readsOf(expression: Expression, inFilter = false): Reads {
  const found: (readonly string[])[] = [];
  if (expression.kind === 'path') {
    const isRow = expression.root.kind === 'whole' || (expression.root.kind === 'current' && !inFilter);
    const names: string[] = [];
    for (const { descendant, selectors } of expression.segments) {
      const [selector] = selectors;
      if (descendant || selectors.length !== 1 || selector.kind !== 'name') break;
      names.push(selector.name);
    }
    if (isRow && names.length === 0) return 'all';
    if (isRow) found.push(names);
    for (const { selectors } of expression.segments) {
      for (const selector of selectors) {
        if (selector.kind !== 'filter') continue;
        const inner = readsOf(selector.condition, true);
        if (inner === 'all') return 'all';
        found.push(...inner);
      }
    }
    return found;
  }
  // each, any and every take conditions on elements: there `@` is one.
  const isLoop = expression.kind === 'call' && (expression.name === 'each' || expression.name === 'any' || expression.name === 'every');
  for (const [i, child] of children(expression).entries()) {
    const inner = readsOf(child, inFilter || (isLoop && i === 1));
    if (inner === 'all') return 'all';
    found.push(...inner);
  }
  return found;
}

/** What a stage reads of the rows that come to it, its own expressions alone. */
export function stageReads(stage: PlannableStage): Reads {
  if (stage.kind === 'mark') return [];
  const found: (readonly string[])[] = [];
  for (const expression of definitionOf(stage.kind).expressions(stage)) {
    const reads = readsOf(expression);
    if (reads === 'all') return 'all';
    found.push(...reads);
  }
  return found;
}

/** Whether fields that are read, or written, are among others, inside them or around them. */
export function touches(fields: Reads | 'any', targets: readonly Chain[]): boolean {
  return fields === 'all' || fields === 'any' || fields.some((names) => targets.some((target) => overlap(names, target)));
}

/**
 * The fields at the top of a row that later stages look at; undefined where one of them may look at any, or where rows
 * come out as they are.
 */
export function usedBy(following: readonly PlannableStage[]): readonly string[] | undefined {
  const used = new Set<string>();
  for (const stage of following) {
    const reads = stageReads(stage);
    if (reads === 'all') return undefined;
    for (const [first] of reads) {
      // Of what has no name all is read.
      if (first === undefined) return undefined;
      used.add(first);
    }
    if (namesAll(stage)) return [...used];
    // What is put inside a field needs that field, and what is taken out of one too.
    const written = traitsOf(stage).writes(stage);
    if (written !== 'any') for (const target of written) if (target.length > 1) used.add(target[0]!);
  }
  return undefined;
}
