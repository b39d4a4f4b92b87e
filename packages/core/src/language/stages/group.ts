import { emptyTree, openTree, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { nearest } from '../diagnostics/nearest.ts';
import { aggregateNames, aggregates, isAggregate, type Aggregate, type AggregateName } from '../functions/aggregates.ts';
import { checkCondition, checkKey, checkValue } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated, type Reader } from '../surfaces/notation/reader.ts';
import type { Expression } from '../tree.ts';
import { arrayTree, booleanTree, numberTree } from './knownTrees.ts';
import { madeByItem, parseSelectItem, printSelectItem, rejectOverlaps, shapeOf } from './select.ts';
import type { GroupAllStage, GroupStage, Measure } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { covers, none, nothing, readIn, type Chain, type Made } from './traits.ts';

export const group: StageDefinition<GroupStage> = {
  words: ['group', 'by'],
  doc: 'Gives one row for each different key, with what is measured over the rows of each group.',
  example: 'group by @.hutId measure fees = sum(@.fee), parties = count()',
  parse: (reader) => {
    const keys = commaSeparated(reader, () => parseSelectItem(reader));
    const measures = reader.takeWord('measure') ? commaSeparated(reader, () => parseMeasure(reader)) : [];
    return { kind: 'group', keys, measures };
  },
  print: ({ keys, measures }) => `group by ${keys.map(printSelectItem).join(', ')}${printMeasures(measures)}`,
  expressions: ({ keys, measures }) => [...keys.map(({ expression }) => expression), ...measures.flatMap(expressionsOf)],
  traits: {
    gives: () => 'new',
    decidedBy: 'rows',
    order: 'of first rows',
    looksAtOrder: () => true,
    keepsOnly: ({ keys }) => keys,
    worksOnParts: true,
    writes: ({ keys, measures }) => [...keys, ...measures].map(({ target }) => target),
    source: none,
    made: ({ keys, measures }, field) => madeByItem(keys, field, 'a key:') ?? measured(measures, field),
  },
  check: ({ keys, measures }, scope) => {
    for (const { expression } of keys) checkKey(expression, scope);
    checkMeasures(measures, scope);
    rejectOverlaps([...keys, ...measures], scope);
  },
  effect: ({ keys, measures }, before) => {
    const tree = keys.reduce<FieldTree>((at, { expression, target }) => withSubtree(at, target, shapeOf(expression, before)), emptyTree);
    return withMeasures(tree, measures, before);
  },
};

export const groupAll: StageDefinition<GroupAllStage> = {
  words: ['group', 'all'],
  doc: 'Gives one row for everything, with what is measured over all rows; even for no rows.',
  example: 'group all measure fees = sum(@.fee), parties = count()',
  parse: (reader) => {
    reader.expectWord('measure');
    return { kind: 'groupAll', measures: commaSeparated(reader, () => parseMeasure(reader)) };
  },
  print: ({ measures }) => `group all${printMeasures(measures)}`,
  expressions: ({ measures }) => measures.flatMap(expressionsOf),
  traits: {
    gives: () => 'new',
    decidedBy: 'rows',
    // One row is in any order.
    order: 'made',
    looksAtOrder: ({ measures }) => measures.some(({ aggregate }) => looksAtOrder(aggregates[aggregate])),
    keepsOnly: nothing,
    worksOnParts: true,
    writes: ({ measures }) => measures.map(({ target }) => target),
    source: none,
    made: ({ measures }, field) => measured(measures, field),
  },
  check: ({ measures }, scope) => {
    checkMeasures(measures, scope);
    rejectOverlaps(measures, scope);
  },
  effect: ({ measures }, before) => withMeasures(emptyTree, measures, before),
};

function looksAtOrder({ ordered, picks }: Aggregate): boolean {
  return ordered || picks === true;
}

function measured(measures: readonly Measure[], field: Chain): Made | undefined {
  const measure = measures.find(({ target }) => covers(target, field));
  if (measure === undefined) return undefined;
  const from = [measure.argument, measure.where].flatMap((expression) => (expression === undefined ? [] : readIn(expression)));
  return { text: `measured: ${printMeasure(measure)}`, from, sources: [] };
}

function parseMeasure(reader: Reader): Measure {
  const start = reader.token;
  const { names } = parseGivenName(reader, 'the name of a measure');
  reader.expectSign('=');
  const call = reader.token;
  const { text: aggregate } = reader.expectName('an aggregate, such as count or sum');
  if (!isAggregate(aggregate)) return reader.reject(findings.unknownAggregate(call, aggregate, nearest(aggregate, aggregateNames)));
  const { takes, example } = aggregates[aggregate] as Aggregate;
  reader.expectSign('(');
  const given = reader.isSign(')') ? [] : commaSeparated(reader, () => parseExpression(reader));
  reader.expectSign(')');
  const wanted = takes === 'nothing' ? 0 : takes === 'value and percentage' ? 2 : 1;
  if (given.length !== wanted)
    reader.reject(findings.aggregateArguments(reader.spanFrom(call), aggregate, example, given.length, meantBy(aggregate, given)));
  const where = reader.takeWord('where') ? parseExpression(reader) : undefined;
  return { target: names, aggregate, argument: given[0], percentage: given[1], where, ...reader.placeFrom(start) };
}

/** What was meant by an aggregate with other arguments than it takes, where that is plain: rows are counted where something holds. */
function meantBy(aggregate: AggregateName, [only, ...more]: readonly Expression[]): string | undefined {
  return aggregate === 'count' && only !== undefined && more.length === 0 ? `count() where ${printExpression(only)}` : undefined;
}

function expressionsOf({ argument, percentage, where }: Measure): Expression[] {
  return [argument, percentage, where].filter((expression) => expression !== undefined);
}

export function printMeasure({ target, aggregate, argument, percentage, where }: Measure): string {
  const given = [argument, percentage].flatMap((expression) => (expression === undefined ? [] : [printExpression(expression)]));
  return `${printGivenName(target)} = ${aggregate}(${given.join(', ')})${where ? ` where ${printExpression(where)}` : ''}`;
}

function printMeasures(measures: readonly Measure[]): string {
  return measures.length === 0 ? '' : `\n  measure ${measures.map(printMeasure).join(', ')}`;
}

function checkMeasures(measures: readonly Measure[], scope: Parameters<StageDefinition<GroupStage>['check']>[1]): void {
  for (const { aggregate, argument, percentage, where } of measures) {
    if (argument !== undefined) (aggregates[aggregate].takes === 'condition' ? checkCondition : checkValue)(argument, scope);
    if (percentage !== undefined) checkValue(percentage, scope);
    if (where !== undefined) checkCondition(where, scope);
  }
}

function withMeasures(tree: FieldTree, measures: readonly Measure[], before: FieldTree): FieldTree {
  return measures.reduce((at, measure) => withSubtree(at, measure.target, measuredTree(measure, before)), tree);
}

function measuredTree({ aggregate, argument }: Measure, before: FieldTree): FieldTree {
  const { result } = aggregates[aggregate] as Aggregate;
  const value = argument === undefined ? openTree : shapeOf(argument, before);
  if (result === 'number') return numberTree;
  if (result === 'boolean') return booleanTree;
  return result === 'array' ? arrayTree(value.open ? undefined : value) : value;
}
