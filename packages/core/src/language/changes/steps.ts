import { openTree, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { checkValue } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parsePath } from '../surfaces/notation/expressions.ts';
import { printExpression, printPath } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import type { AppendStep, ChangeStep, DeleteStep, RemoveStep, ReplaceStep, SetItem, SetStep, TakeStep } from '../stages/stage.ts';
import type { StageDefinition } from '../stages/definition.ts';
import { fieldNames, isSingle, type PathExpression } from '../tree.ts';
import { shapeOf } from '../stages/select.ts';
import { no, none, type StageTraits } from '../stages/traits.ts';

/** Steps of a change make a document of a document, and no plan moves anything past them. */
const ofDocuments: StageTraits<ChangeStep> = {
  gives: () => 'one',
  decidedBy: 'row',
  order: 'kept',
  looksAtOrder: no,
  keepsOnly: none,
  worksOnParts: false,
  writes: () => 'any',
  source: none,
  made: none,
};

export const set: StageDefinition<SetStep> = {
  words: ['set'],
  doc: 'Puts values into fields of each document that is kept. All values are made from the document as it was.',
  example: 'set @.fee.night = round(@.fee.night * 1.04, 2), @.fee.reviewed = date_trunc("day", now())',
  parse: (reader) => ({ kind: 'set', items: commaSeparated(reader, () => setItem(reader)) }),
  print: ({ items }) => `set ${items.map(({ target, expression }) => `${printPath(target)} = ${printExpression(expression)}`).join(', ')}`,
  expressions: ({ items }) => items.map(({ expression }) => expression),
  traits: ofDocuments,
  check: ({ items }, scope) => {
    for (const { expression } of items) checkValue(expression, scope);
  },
  effect: ({ items }, before) =>
    items.reduce<FieldTree>((tree, { target, expression }) => {
      const names = fieldNames(target);
      return tree.open || names === undefined ? tree : withSubtree(tree, names, shapeOf(expression, before));
    }, before),
};

export const remove: StageDefinition<RemoveStep> = {
  words: ['remove'],
  doc: 'Takes fields or elements out of each document that is kept; wildcards are allowed.',
  example: 'remove @.note, @.nights[*].fee',
  parse: (reader) => ({ kind: 'remove', paths: commaSeparated(reader, () => targetPath(reader, true)) }),
  print: ({ paths }) => `remove ${paths.map(printPath).join(', ')}`,
  expressions: ({ paths }) => paths,
  traits: ofDocuments,
  check: ({ paths }, scope) => {
    for (const path of paths) checkValue(path, scope);
  },
  effect: ({ paths }, before) =>
    paths.reduce<FieldTree>((tree, path) => {
      const names = fieldNames(path);
      return names === undefined || tree.open ? tree : withSubtree(tree, names, undefined);
    }, before),
};

export const append: StageDefinition<AppendStep> = {
  words: ['append'],
  doc: 'Puts a value at the end of an array; a missing array is begun.',
  example: 'append "solar power" to @.fittings',
  parse: (reader) => {
    const expression = parseExpression(reader);
    reader.expectWord('to');
    return { kind: 'append', expression, target: targetPath(reader, false) };
  },
  print: ({ expression, target }) => `append ${printExpression(expression)} to ${printPath(target)}`,
  expressions: ({ expression }) => [expression],
  traits: ofDocuments,
  check: ({ expression }, scope) => checkValue(expression, scope),
  effect: (_step, before) => before,
};

export const take: StageDefinition<TakeStep> = {
  words: ['take'],
  doc: 'Takes all elements that equal a value out of an array.',
  example: 'take "stove" from @.fittings',
  parse: (reader) => {
    const expression = parseExpression(reader);
    reader.expectWord('from');
    return { kind: 'take', expression, target: targetPath(reader, false) };
  },
  print: ({ expression, target }) => `take ${printExpression(expression)} from ${printPath(target)}`,
  expressions: ({ expression, target }) => [expression, target],
  traits: ofDocuments,
  check: ({ expression, target }, scope) => {
    checkValue(expression, scope);
    checkValue(target, scope);
  },
  effect: (_step, before) => before,
};

export const replace: StageDefinition<ReplaceStep> = {
  words: ['replace', 'with'],
  doc: 'Puts another document in the place of each that is kept. Its identity stays.',
  example: 'replace with {name: @.name, region: @.region}',
  parse: (reader) => ({ kind: 'replace', expression: parseExpression(reader) }),
  print: ({ expression }) => `replace with ${printExpression(expression)}`,
  expressions: ({ expression }) => [expression],
  traits: ofDocuments,
  check: ({ expression }, scope) => checkValue(expression, scope),
  effect: () => openTree,
};

export const deletion: StageDefinition<DeleteStep> = {
  words: ['delete'],
  doc: 'Takes each document that is kept out of the collection.',
  example: 'delete',
  parse: () => ({ kind: 'delete' }),
  print: () => 'delete',
  expressions: () => [],
  traits: ofDocuments,
  check: () => undefined,
  effect: (_step, before) => before,
};

function setItem(reader: Reader): SetItem {
  const start = reader.token;
  const target = targetPath(reader, true);
  reader.expectSign('=');
  return { target, expression: parseExpression(reader), ...reader.placeFrom(start) };
}

/** The path of something in a document that is changed: names and positions, and wildcards where several may be meant. */
function targetPath(reader: Reader, several: boolean): PathExpression {
  if (!reader.isSign('@') && !reader.isSign('$')) reader.fail('the path of a field');
  const path = parsePath(reader);
  const isPlain = path.segments.every(
    ({ descendant, selectors }) => !descendant && selectors.length === 1 && ['name', 'wildcard', 'index'].includes(selectors[0]!.kind),
  );
  return isPlain && path.segments.length > 0 && (several || isSingle(path)) ? path : reader.reject(findings.notATarget(reader.at(path)));
}
