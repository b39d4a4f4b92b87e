import type { AggregateName } from '../../language/functions/aggregates.ts';
import type { GroupAllStage, GroupStage, Measure, SelectItem, SelectStage } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Expression } from '../../language/tree.ts';
import { measureText, pathTo, sumText } from './canonical.ts';

/** What is put together from what finer groups show of themselves; `count`, `sum` and `avg` go on from what they have kept. */
const fromShown: ReadonlySet<AggregateName> = new Set(['min', 'max', 'any', 'every']);

/**
 * What is left to do where a finer group is kept: to pick its measures, or to group its rows once more.
 * @param keepsSums whether its rows have with them what their sums were before they were rounded: a sum of rounded ones would be another
 * @returns why it cannot be, where it cannot
 */
export function rolledUp(
  kept: GroupStage,
  asked: GroupStage | GroupAllStage,
  keepsSums: boolean,
): SelectStage | GroupStage | GroupAllStage | string {
  if (asked.kind === 'groupAll') {
    const measures = again(kept, asked, keepsSums);
    return typeof measures === 'string' ? measures : { kind: 'groupAll', measures };
  }
  const keysOf = ({ keys }: GroupStage) => keys.map(({ expression }) => printExpression(expression));
  const [has, wants] = [keysOf(kept), keysOf(asked)];
  const unknown = wants.find((key) => !has.includes(key));
  if (unknown !== undefined) return `it is not grouped by ${unknown}`;
  const keys = asked.keys.map((key): SelectItem => {
    const { target } = kept.keys[has.indexOf(printExpression(key.expression))]!;
    return { ...key, expression: pathTo(target, key.expression), named: true };
  });
  // One key may be asked for twice: it is as fine where it asks for each of them.
  if (has.every((key) => wants.includes(key))) return picked(kept, asked, keys);
  const measures = again(kept, asked, keepsSums);
  return typeof measures === 'string' ? measures : { kind: 'group', keys, measures };
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

function again(kept: GroupStage, asked: GroupStage | GroupAllStage, keepsSums: boolean): Measure[] | string {
  const measures: Measure[] = [];
  for (const measure of asked.measures) {
    const found = sameIn(kept, measure);
    if (found === undefined) return `it has no ${measure.target.join('.')}`;
    const made = putTogether(measure, found, keepsSums ? kept.measures.indexOf(found) : undefined);
    if (typeof made === 'string') return made;
    measures.push({ ...measure, percentage: undefined, where: undefined, ...made });
  }
  return measures;
}

/**
 * What a measure of several groups is made of.
 * @param found what is kept of it, and where among the sums that are kept whole; undefined where they are not
 */
function putTogether({ aggregate }: Measure, found: Measure, sum: number | undefined): Pick<Measure, 'argument' | 'kept'> | string {
  if (aggregate === 'count') return { argument: pathTo(found.target, found), kept: 0 };
  if (aggregate === 'sum' || aggregate === 'avg') {
    if (sum === undefined) return `its ${aggregate} is kept rounded until it is made anew`;
    // The whole row, since what is kept with it is no field.
    return { argument: pathTo([], found), kept: sum };
  }
  return fromShown.has(aggregate) ? { argument: argumentOf(aggregate, found) } : `${aggregate} of finer groups cannot be put together`;
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
