import type { LanguageName } from '../words/languageNames.ts';
import type { Vectors } from './vectorSurvey.ts';
import type { Json } from '../values/json.ts';
import type { Kind } from '../values/kind.ts';

/** Of texts in UTF-16 code units, of arrays in elements. */
export interface Lengths {
  readonly least: number;
  readonly greatest: number;
  readonly mean: number;
}

/** What is known of one field path, over the documents that were looked at. */
export interface FieldInfo {
  /** How many of the values met have each type. */
  readonly types: Partial<Record<Kind, number>>;
  /** Share of documents that have the field, 0 to 1 (for array elements: that have one at least). */
  readonly presence: number;
  readonly least?: number | string;
  readonly greatest?: number | string;
  /** The commonest values with their counts, where the field has few different ones. */
  readonly top: readonly { readonly value: Json; readonly count: number }[];
  readonly example?: Json;
  /** How many of its numbers are whole. */
  readonly whole?: number;
  /** How many different values there are; estimated where there are many. */
  readonly distinct?: { readonly count: number; readonly exact: boolean };
  /** Its numbers in bars of the same width; from a sample where there are many. */
  readonly histogram?: { readonly from: number; readonly to: number; readonly counts: readonly number[]; readonly exact: boolean };
  readonly textLengths?: Lengths;
  readonly arrayLengths?: Lengths;
  /** Where most of its arrays are vectors of one length. */
  readonly vectors?: Vectors;
  /** Of its longer texts, told by some of them. */
  readonly language?: LanguageName;
  /** Forms that its texts have, of those that were looked at. */
  readonly formats?: readonly { readonly format: string; readonly share: number }[];
  /** Bytes of its values' text, about. */
  readonly bytes?: number;
  /** What people have noted of it. */
  readonly note?: string;
  readonly unit?: string;
}

/** The fields of a row as a tree. `element` is what the elements of an array are like. */
export interface FieldTree {
  readonly info?: FieldInfo;
  readonly fields: ReadonlyMap<string, FieldTree>;
  readonly element?: FieldTree;
  /** Anything may stand below: nothing is known, so nothing is called unknown. */
  readonly open?: true;
}

export const emptyTree: FieldTree = { fields: new Map() };
export const openTree: FieldTree = { fields: new Map(), open: true };

/** A step from a tree to one below: a field's name, or `*` for the elements of an array. */
export type FieldStep = { readonly field: string } | { readonly element: true };

export interface FlatField {
  readonly steps: readonly FieldStep[];
  readonly info: FieldInfo;
}

interface Growing {
  info?: FieldInfo;
  fields: Map<string, Growing>;
  open?: true;
  element?: Growing;
}

/** So many paths of a collection are told: documents whose field names are data would otherwise fill the memory. */
export const mostPaths = 2_000;

const trees = new WeakMap<readonly FlatField[], FieldTree>();

/**
 * The tree of the flat list in which a shape travels; the same one for the same list. Where there are as many paths as are told there may be
 * more, anywhere: then no name is one that no document has.
 */
export function fieldTree(fields: readonly FlatField[]): FieldTree {
  let tree = trees.get(fields);
  if (tree === undefined) trees.set(fields, (tree = grown(fields)));
  return tree;
}

function grown(fields: readonly FlatField[]): FieldTree {
  const growing = (): Growing => ({ fields: new Map(), ...(fields.length >= mostPaths && { open: true as const }) });
  const root = growing();
  for (const { steps, info } of fields) {
    let at = root;
    for (const step of steps) {
      let below = 'field' in step ? at.fields.get(step.field) : at.element;
      if (below === undefined) {
        below = growing();
        if ('field' in step) at.fields.set(step.field, below);
        else at.element = below;
      }
      at = below;
    }
    at.info = info;
  }
  return root;
}

/** The tree below a chain of field names; undefined where no document has it, open where it is not known. */
export function descend(tree: FieldTree, names: readonly string[]): FieldTree | undefined {
  let at: FieldTree | undefined = tree;
  for (const name of names) {
    at = at.fields.get(name) ?? (at.open ? openTree : undefined);
    if (at === undefined) return undefined;
  }
  return at;
}

/** A copy of the tree with another subtree (or none) at a chain of names. */
export function withSubtree(tree: FieldTree, names: readonly string[], subtree: FieldTree | undefined): FieldTree {
  const [first, ...rest] = names;
  if (first === undefined) return subtree ?? emptyTree;
  const fields = new Map(tree.fields);
  if (rest.length === 0 && subtree === undefined) fields.delete(first);
  else fields.set(first, withSubtree(fields.get(first) ?? emptyTree, rest, subtree));
  return { ...tree, fields };
}
