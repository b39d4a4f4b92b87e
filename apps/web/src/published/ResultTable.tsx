import type { PublishedForm } from '@zesty-sieve/contract';
import { memo, useMemo } from 'react';
import { columnLabel, columnsOf, valueAt } from '../parts/documents/columns.ts';
import { figure } from '../parts/numbers.ts';

interface Column {
  readonly names: readonly (string | number)[];
  readonly label: string;
}

/** The columns that the publisher has chosen, or those of the rows, objects taken apart. */
export function shownColumns(rows: readonly unknown[], chosen: PublishedForm['columns']): readonly Column[] {
  if (chosen !== null) return chosen.map(({ names, label }) => ({ names, label: label ?? columnLabel(names) }));
  return columnsOf(rows).map(({ names }) => ({ names, label: columnLabel(names) }));
}

const shown = (value: unknown): string => (value === undefined || value === null ? '' : typeof value === 'string' ? value : typeof value === 'number' ? figure(value) : JSON.stringify(value)); // prettier-ignore

interface ResultTableProps {
  readonly rows: readonly unknown[];
  readonly chosen: PublishedForm['columns'];
}

/** It stands still while somebody fills in the form beside it. */
export const ResultTable = memo(function ResultTable({ rows, chosen }: ResultTableProps) {
  const columns = useMemo(() => shownColumns(rows, chosen), [rows, chosen]);
  const numbers = new Set(columns.filter(({ names }) => rows.length > 0 && rows.every((row) => ['number', 'undefined'].includes(typeof valueAt(row, names))))); // prettier-ignore
  const side = (column: Column) => (numbers.has(column) ? 'number' : undefined);
  return (
    // What scrolls is reached by the keyboard.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex -- as above
    <div className="scroll" tabIndex={0} role="region" aria-label="Rows">
      <table>
        <thead>
          <tr>
            {columns.map((column, i) => (
              <th key={i} scope="col" className={side(column)}>
                {column.label}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              {columns.map((column, i) => (
                <td key={i} className={side(column)} title={shown(valueAt(row, column.names))}>
                  {shown(valueAt(row, column.names))}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
});
