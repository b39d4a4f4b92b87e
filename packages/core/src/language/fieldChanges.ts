import type { FieldTree } from '../shape/fieldTree.ts';
import { madeBy } from './fieldLife.ts';
import { pathText } from './surfaces/notation/print.ts';
import { traitsOf } from './stages/registry.ts';
import type { Stage } from './stages/stage.ts';

/** What a line did to the fields of a row, as paths (`@.fee.night`), parents before their fields. */
export interface FieldChanges {
  readonly added: readonly string[];
  /** There before and after, with another value. */
  readonly changed: readonly string[];
  readonly dropped: readonly string[];
}

const deepest = 4;

/** Compares the fields before and after a stage; undefined where they are not known. */
export function fieldChanges(stage: Stage, before: FieldTree, after: FieldTree): FieldChanges | undefined {
  if (stage.kind === 'from') return undefined;
  // Where not all is known, what a line adds is told all the same; of rows that it makes anew nobody knows what was there.
  const isOpen = before.open === true || after.open === true;
  if (isOpen && (before.fields.size === 0 || traitsOf(stage.kind).gives(stage) === 'new')) return undefined;
  const [were, are] = [pathsOf(before), pathsOf(after)];
  return {
    added: [...are.keys()].filter((path) => !were.has(path)),
    changed: [...are].flatMap(([path, names]) => (were.has(path) && isMadeAnew(stage, names) ? [path] : [])),
    dropped: [...were.keys()].filter((path) => !are.has(path)),
  };
}

function isMadeAnew(stage: Stage, names: readonly string[]): boolean {
  const made = madeBy(stage, names);
  if (made === undefined) return false;
  // A key that is the field itself is the field as it was.
  const isItself = traitsOf(stage.kind).gives(stage) === 'new' && made.from.length === 1 && pathText(made.from[0]!) === pathText(names);
  return !isItself;
}

function pathsOf(tree: FieldTree): Map<string, readonly string[]> {
  const paths = new Map<string, readonly string[]>();
  const visit = (at: FieldTree, names: readonly string[]): void => {
    for (const [name, below] of at.fields) {
      const chain = [...names, name];
      paths.set(pathText(chain), chain);
      if (chain.length < deepest) visit(below, chain);
    }
  };
  visit(tree, []);
  return paths;
}
