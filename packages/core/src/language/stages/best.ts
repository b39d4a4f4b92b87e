import { withSubtree } from '../../shape/fieldTree.ts';
import { checkKey, checkValue } from '../checkExpression.ts';
import { isConstant } from '../constant.ts';
import { findings } from '../diagnostics/findings.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import type { Expression } from '../tree.ts';
import type { StageDefinition, StageScope } from './definition.ts';
import { numberTree } from './knownTrees.ts';
import { warnOfOverwriting } from './overwriting.ts';
import { isRowCount } from './rowCount.ts';
import type { BestStage, Score } from './stage.ts';
import { covers, no, none, readIn } from './traits.ts';

/** The most candidates that a question may ask to be looked at. */
export const mostEffort = 10_000;

/** An effort is no less than the rows that are kept: of fewer candidates there are not so many best. */
export const isEffort = (value: unknown, count: number): boolean => isRowCount(value) && value > 0 && value >= count && value <= mostEffort;

function parseScore(reader: Reader): Score {
  const start = reader.token;
  const expression = parseExpression(reader);
  const weight = reader.takeWord('weight') ? parseExpression(reader) : undefined;
  return { expression, weight, ...reader.placeFrom(start) };
}

const printScore = ({ expression, weight }: Score): string =>
  `${printExpression(expression)}${weight === undefined ? '' : ` weight ${printExpression(weight)}`}`;

const after = (word: string, value: Expression | undefined): string => (value === undefined ? '' : ` ${word} ${printExpression(value)}`);
const present = (values: readonly (Expression | undefined)[]): readonly Expression[] => values.filter((one) => one !== undefined);

/** A number that is the same for all rows: looked at where it is written out. */
function checkNumber(value: Expression, word: string, scope: StageScope, fits: (value: unknown) => boolean, wanted: string): void {
  if (!isConstant(value)) scope.report(findings.notConstant(scope.at(value), word));
  else if (value.kind === 'literal' && !fits(value.value)) scope.report(findings.badNumber(scope.at(value), word, wanted));
  else checkValue(value, scope);
}

/** Keeps the rows that score highest. Several scores are fused by their places (Cormack, Clarke, Büttcher 2009). */
export const best: StageDefinition<BestStage> = {
  words: ['best'],
  doc: 'Keeps the N rows that score highest, best first. Several scores are fused by the places that each gives.',
  example: 'best 10 by relevance(@.text, "bridge", "english") as score',
  parse: (reader) => {
    const count = parseExpression(reader);
    reader.expectWord('by');
    const scores = commaSeparated(reader, () => parseScore(reader));
    const target = reader.takeWord('as') ? parseGivenName(reader) : undefined;
    const depth = reader.takeWord('depth') ? parseExpression(reader) : undefined;
    const effort = reader.takeWord('effort') ? parseExpression(reader) : undefined;
    return { kind: 'best', count, scores, target, depth, effort };
  },
  print: ({ count, scores, target, depth, effort }) =>
    `best ${printExpression(count)} by ${scores.map(printScore).join(', ')}${target === undefined ? '' : ` as ${printGivenName(target.names)}`}${after('depth', depth)}${after('effort', effort)}`,
  expressions: ({ count, scores, depth, effort }) =>
    present([count, ...scores.flatMap(({ expression, weight }) => [expression, weight]), depth, effort]),
  traits: {
    gives: () => 'at most one',
    decidedBy: 'rows',
    order: 'made',
    // Ties stand in insertion order, whatever order rows come in.
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: true,
    writes: ({ target }) => (target === undefined ? [] : [target.names]),
    source: none,
    made: ({ target, scores }, field) =>
      target !== undefined && covers(target.names, field)
        ? { text: 'its score', from: scores.flatMap(({ expression }) => readIn(expression)), sources: [] }
        : undefined,
  },
  check: ({ count, scores, target, depth, effort }, scope) => {
    checkNumber(count, 'best', scope, isRowCount, 'a whole number of rows, 0 or more');
    for (const { expression, weight } of scores) {
      checkKey(expression, scope);
      if (weight !== undefined) checkNumber(weight, 'weight', scope, (value) => typeof value === 'number' && value >= 0, 'a number, 0 or more'); // prettier-ignore
    }
    if (depth !== undefined) checkNumber(depth, 'depth', scope, (value) => isRowCount(value) && value > 0, 'a whole number of rows, 1 or more'); // prettier-ignore
    if (effort !== undefined) checkNumber(effort, 'effort', scope, (value) => isEffort(value, count.kind === 'literal' ? Number(count.value) : 0), `a whole number from the rows that are kept to ${mostEffort}`); // prettier-ignore
    if (target !== undefined) warnOfOverwriting(target, scope);
  },
  effect: ({ target }, before) => (before.open || target === undefined ? before : withSubtree(before, target.names, numberTree)),
};
