import { aggregates, type Aggregate, type AggregateName } from '../functions/aggregates.ts';
import { printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import type { GroupAllStage, GroupStage } from '../stages/stage.ts';
import { ownName, writeRow } from './namedRows.ts';

/** A key of a group: its expression and the name under which it is put. */
export interface GroupKeyRow {
  readonly text: string;
  readonly name: string;
}

/** A measure as a row of a form. What an aggregate does not take, and no condition, is the empty text. */
export interface MeasureRow {
  readonly name: string;
  readonly aggregate: AggregateName;
  readonly argument: string;
  readonly percentage: string;
  readonly where: string;
}

/** Without keys it is one group of everything. */
export interface GroupForm {
  readonly keys: readonly GroupKeyRow[];
  readonly measures: readonly MeasureRow[];
}

export function takenBy(aggregate: AggregateName): Aggregate['takes'] {
  return (aggregates[aggregate] as Aggregate).takes;
}

export function readGroup(stage: GroupStage | GroupAllStage): GroupForm {
  return {
    keys:
      stage.kind === 'group'
        ? stage.keys.map(({ expression, target }) => ({ text: printExpression(expression), name: printGivenName(target) }))
        : [],
    measures: stage.measures.map(({ target, aggregate, argument, percentage, where }) => ({
      name: printGivenName(target),
      aggregate,
      argument: argument ? printExpression(argument) : '',
      percentage: percentage ? printExpression(percentage) : '',
      where: where ? printExpression(where) : '',
    })),
  };
}

/** The stage's text; undefined where neither a key nor a measure is left. */
export function writeGroup({ keys, measures }: GroupForm): string | undefined {
  if (keys.length === 0 && measures.length === 0) return undefined;
  const keyText = keys.map(({ text, name }) => writeRow({ text, name: ownName(text) === name ? undefined : name })).join(', ');
  const measureText = measures.map(writeMeasure).join(', ');
  return `${keys.length === 0 ? 'group all' : `group by ${keyText}`}${measureText === '' ? '' : `\n  measure ${measureText}`}`;
}

const usualPercentage = '50';

function writeMeasure({ name, aggregate, argument, percentage, where }: MeasureRow): string {
  const given = {
    nothing: '',
    value: argument,
    condition: argument,
    'value and percentage': `${argument}, ${percentage || usualPercentage}`,
  }[takenBy(aggregate)];
  return `${name} = ${aggregate}(${given})${where.trim() === '' ? '' : ` where ${where}`}`;
}
