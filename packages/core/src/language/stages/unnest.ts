import { emptyTree, openTree, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { checkValue } from '../checkExpression.ts';
import { treeOf } from '../followPath.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { parsePath } from '../surfaces/notation/expressions.ts';
import { printPath } from '../surfaces/notation/print.ts';
import { isSingle } from '../tree.ts';
import { numberTree } from './knownTrees.ts';
import { warnOfOverwriting } from './overwriting.ts';
import type { UnnestStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { covers, no, none, readIn } from './traits.ts';

export const unnest: StageDefinition<UnnestStage> = {
  words: ['unnest'],
  doc: 'Gives one row for each element of an array, or for each node of a path to several, in order, under a name. Rows without any go, unless kept.',
  example: 'unnest @.nights as night with position as at',
  parse: (reader) => {
    if (!reader.isSign('@') && !reader.isSign('$')) reader.fail('the path of an array');
    const path = parsePath(reader);
    reader.expectWord('as');
    const target = parseGivenName(reader);
    let position: UnnestStage['position'];
    if (reader.takeWord('with')) {
      reader.expectWord('position');
      reader.expectWord('as');
      position = parseGivenName(reader);
    }
    const keepEmpty = reader.takeWord('keep') !== undefined;
    if (keepEmpty) reader.expectWord('empty');
    return { kind: 'unnest', path, target, position, keepEmpty };
  },
  print: ({ path, target, position, keepEmpty }) =>
    `unnest ${printPath(path)} as ${printGivenName(target.names)}${position ? ` with position as ${printGivenName(position.names)}` : ''}${keepEmpty ? ' keep empty' : ''}`,
  expressions: ({ path }) => [path],
  traits: {
    gives: ({ keepEmpty }) => (keepEmpty ? 'one or more' : 'any'),
    decidedBy: 'row',
    order: 'kept',
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: false,
    writes: ({ target, position }) => [target.names, ...(position ? [position.names] : [])],
    source: none,
    made: ({ path, target, position }, field) => {
      if (position && covers(position.names, field)) return { text: 'the position of an element', from: readIn(path), sources: [] };
      return covers(target.names, field) ? { text: `an element of ${printPath(path)}`, from: readIn(path), sources: [] } : undefined;
    },
  },
  check: ({ path, target, position }, scope) => {
    checkValue(path, scope);
    const own = path.segments.length === target.names.length && printPath(path) === `@.${target.names.join('.')}`;
    if (!own) warnOfOverwriting(target, scope);
    if (position) warnOfOverwriting(position, scope);
  },
  effect: ({ path, target, position }, before) => {
    const array = treeOf(path, { current: before, whole: before });
    let tree = withSubtree(before, target.names, array === undefined || before.open ? openTree : isSingle(path) ? elementOf(array) : array);
    if (position) tree = withSubtree(tree, position.names, numberTree);
    return before.open ? openTree : tree;
  },
};

/** What the elements of a field are like; a field that is no array is an element itself. */
function elementOf(array: FieldTree): FieldTree {
  if (array.open) return openTree;
  if (array.element === undefined) return array.info?.types.array === undefined ? array : emptyTree;
  return array.element;
}
