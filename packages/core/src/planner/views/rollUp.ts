import type { AggregateName } from '../../language/functions/aggregates.ts';
import type { GroupStage, Measure, SelectItem, SelectStage } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Expression } from '../../language/tree.ts';
import { measureText, pathTo, sumText } from './canonical.ts';

/** What puts an aggregate of several groups together from theirs; sums are kept rounded, so that those of sums would not be exact. */
const putTogether: Partial<Record<AggregateName, AggregateName>> = { count: 'sum', min: 'min', max: 'max', any: 'any', every: 'every' };

/**
 * What is left to do where a finer group is kept: to pick its measures, or to group its rows once more.
 * @returns why it cannot be, where it cannot
 */
export function rolledUp(kept: GroupStage, asked: GroupStage): SelectStage | GroupStage | string {
  const keysOf = ({ keys }: GroupStage) => keys.map(({ expression }) => printExpression(expression));
  const [has, wants] = [keysOf(kept), keysOf(asked)];
  const unknown = wants.find((key) => !has.includes(key));
  if (unknown !== undefined) return `it is not grouped by ${unknown}`;
  const keys = asked.keys.map((key): SelectItem => {
    const { target } = kept.keys[has.indexOf(printExpression(key.expression))]!;
    return { ...key, expression: pathTo(target, key.expression), named: true };
  });
  // One key may be asked for twice: it is as fine where it asks for each of them.
  return has.every((key) => wants.includes(key)) ? picked(kept, asked, keys) : again(kept, asked, keys);
}

function picked(kept: GroupStage, asked: GroupStage, keys: readonly SelectItem[]): SelectStage | string {
  const items: SelectItem[] = [];
  for (const measure of asked.measures) {
    const found = sameIn(kept, measure);
    if (found === undefined) return `it has no ${measure.target.join('.')}`;
    items.push({ id: measure.id, expression: pathTo(found.target, measure), target: measure.target, named: true });
  }
  return { kind: 'select', items: [...keys, ...items] };
}

function again(kept: GroupStage, asked: GroupStage, keys: readonly SelectItem[]): GroupStage | string {
  const measures: Measure[] = [];
  for (const measure of asked.measures) {
    const found = sameIn(kept, measure);
    const aggregate = putTogether[measure.aggregate];
    if (found === undefined) return `it has no ${measure.target.join('.')}`;
    if (aggregate === undefined) return `${measure.aggregate} of finer groups cannot be put together`;
    measures.push({ ...measure, aggregate, argument: argumentOf(aggregate, found), percentage: undefined, where: undefined });
  }
  return { kind: 'group', keys, measures };
}

/** The measure of a group that is the same, by its name or whatever it is called. */
function sameIn({ measures }: GroupStage, measure: Measure): Measure | undefined {
  return measures.find((one) => measureText(one) === measureText(measure)) ?? measures.find((one) => sumText(one) === sumText(measure));
}

/** What was kept of a measure; `any` and `every` take a condition, and a path alone is whether it is there. */
function argumentOf(aggregate: AggregateName, { id, target }: Measure): Expression {
  const path = pathTo(target, { id });
  if (aggregate !== 'any' && aggregate !== 'every') return path;
  return { kind: 'comparison', operator: '==', left: path, right: { kind: 'literal', value: true, id }, id };
}
