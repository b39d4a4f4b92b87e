import { descend, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { checkValue } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { pathText, printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import { walk } from '../tree.ts';
import { shapeOf } from './select.ts';
import type { Assignment, ComputeStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { no, none, overlap, readIn } from './traits.ts';

export const compute: StageDefinition<ComputeStage> = {
  words: ['compute'],
  doc: 'Adds fields or overwrites them, from left to right; a value that is nothing leaves the field out.',
  example: 'compute fee = sum_of(@.nights[*].fee) * @.party.size',
  parse: (reader) => ({ kind: 'compute', assignments: commaSeparated(reader, () => assignment(reader)) }),
  print: ({ assignments }) => `compute ${assignments.map(printAssignment).join(', ')}`,
  expressions: ({ assignments }) => assignments.map(({ expression }) => expression),
  traits: {
    gives: () => 'one',
    decidedBy: 'row',
    order: 'kept',
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: true,
    writes: ({ assignments }) => assignments.map(({ target }) => target),
    source: none,
    made: ({ assignments }, field) => {
      const own = assignments.findLast(({ target }) => overlap(target, field));
      return own && { text: `computed as ${printExpression(own.expression)}`, from: readIn(own.expression), sources: [] };
    },
  },
  check: ({ assignments }, scope) => {
    let current = scope.current;
    for (const one of assignments) {
      // A later expression sees what earlier ones have made.
      checkValue(one.expression, { ...scope, current, whole: current });
      if (current !== undefined && !current.open && descend(current, one.target) !== undefined && !readsItself(one)) {
        scope.report(findings.overwritten(scope.at(one), scope.words.name(one.target)));
      }
      if (current !== undefined) current = withValue(current, one);
    }
  },
  effect: ({ assignments }, before) => assignments.reduce(withValue, before),
};

function assignment(reader: Reader): Assignment {
  const start = reader.token;
  const { names } = parseGivenName(reader, 'the name of a field');
  reader.expectSign('=');
  return { target: names, expression: parseExpression(reader), ...reader.placeFrom(start) };
}

function printAssignment({ target, expression }: Assignment): string {
  return `${printGivenName(target)} = ${printExpression(expression)}`;
}

function withValue(tree: FieldTree, { target, expression }: Assignment): FieldTree {
  return withSubtree(tree, target, shapeOf(expression, tree));
}

/** `compute fee = @.fee * 2` means to overwrite. */
function readsItself({ target, expression }: Assignment): boolean {
  const own = pathText(target);
  let found = false;
  walk(expression, (node) => {
    if (node.kind === 'path' && printExpression(node) === own) found = true;
  });
  return found;
}
