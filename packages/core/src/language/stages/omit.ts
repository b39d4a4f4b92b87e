import { withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { checkValue } from '../checkExpression.ts';
import { parsePath } from '../surfaces/notation/expressions.ts';
import { printPath } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import { fieldNames, type PathExpression } from '../tree.ts';
import type { OmitStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { no, none } from './traits.ts';

export const omit: StageDefinition<OmitStage> = {
  words: ['omit'],
  doc: 'Keeps all fields but these; wildcards are allowed.',
  example: 'omit @.note, @.nights[*].fee',
  parse: (reader) => ({ kind: 'omit', paths: commaSeparated(reader, () => parseOmittedPath(reader)) }),
  print: ({ paths }) => `omit ${paths.map(printPath).join(', ')}`,
  expressions: ({ paths }) => paths,
  traits: {
    gives: () => 'one',
    decidedBy: 'row',
    order: 'kept',
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: false,
    writes: ({ paths }) => {
      const names = paths.map(fieldNames);
      return names.every((chain) => chain !== undefined) ? names : 'any';
    },
    source: none,
    made: none,
  },
  check: ({ paths }, scope) => {
    for (const path of paths) checkValue(path, scope);
  },
  effect: ({ paths }, before) =>
    paths.reduce<FieldTree>((tree, path) => {
      const names = fieldNames(path);
      return names === undefined || tree.open ? tree : withSubtree(tree, names, undefined);
    }, before),
};

function parseOmittedPath(reader: Reader): PathExpression {
  if (!reader.isSign('@') && !reader.isSign('$')) reader.fail('the path of a field');
  const path = parsePath(reader);
  const isPlain = path.segments.every(
    ({ descendant, selectors }) => !descendant && selectors.length === 1 && ['name', 'wildcard', 'index'].includes(selectors[0]!.kind),
  );
  return isPlain && path.segments.length > 0 ? path : reader.reject(findings.notOmitted(reader.at(path)));
}
