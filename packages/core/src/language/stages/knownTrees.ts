import type { FieldTree } from '../../shape/fieldTree.ts';

const always = { presence: 1, top: [] } as const;

/** What a number that every row has looks like. */
export const numberTree: FieldTree = { fields: new Map(), info: { ...always, types: { number: 1 } } };
export const booleanTree: FieldTree = { fields: new Map(), info: { ...always, types: { boolean: 1 } } };

export function arrayTree(element: FieldTree | undefined): FieldTree {
  return { fields: new Map(), info: { ...always, types: { array: 1 } }, ...(element && { element }) };
}
