import type { FieldTree } from '../shape/fieldTree.ts';
import { isSingle, type PathExpression, type Selector } from './tree.ts';

/** What the roots of paths are like. */
export interface Roots {
  /** What `@` is like here; undefined where nothing is known of it. */
  readonly current: FieldTree | undefined;
  readonly whole: FieldTree | undefined;
  readonly partners?: ReadonlyMap<string, FieldTree | undefined>;
}
/** What a path leads to, as far as it is known; undefined where it is not. */
export function treeOf(path: PathExpression, scope: Roots): FieldTree | undefined {
  return follow(path, scope, () => undefined);
}

export function elementsOf(path: PathExpression, scope: Roots): FieldTree | undefined {
  const tree = treeOf(path, scope);
  // The values of a several path are the elements already.
  return isSingle(path) ? tree?.element : tree;
}

/** Walks a path through the shape, telling where it first leads nowhere, and which fields there are. */
export function follow(
  path: PathExpression,
  scope: Roots,
  lost: (names: readonly string[], at: Selector, fields: Iterable<string>) => void,
): FieldTree | undefined {
  const root = path.root;
  let at = root.kind === 'current' ? scope.current : root.kind === 'whole' ? scope.whole : scope.partners?.get(root.name);
  const names: string[] = [];
  for (const { descendant, selectors } of path.segments) {
    if (at === undefined || at.open || descendant) return undefined;
    if (selectors.length !== 1) return undefined;
    const selector: Selector = selectors[0]!;
    if (selector.kind === 'name') {
      names.push(selector.name);
      const below: FieldTree | undefined = at.fields.get(selector.name);
      if (below === undefined) lost(names, selector, at.fields.keys());
      at = below;
    } else {
      // Fields of unknown names stand below a wildcard on an object.
      at = at.element;
    }
  }
  return at;
}
