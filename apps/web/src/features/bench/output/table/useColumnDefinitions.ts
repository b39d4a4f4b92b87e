import { createColumnHelper } from '@tanstack/react-table';
import { useMemo } from 'react';
import { useAppSelector } from '../../../../app/store.ts';
import { columnLabel, columnsOf, inChosenOrder, shortText, valueAt } from '../../../../parts/documents/columns.ts';

const helper = createColumnHelper<unknown>();
/** Rows from which the columns are read; those of later pages have the same as a rule. */
const rowsLookedAt = 200;

/** The columns of rows: those that were not hidden, in the order chosen, as wide as what the first page has in them. */
export function useColumnDefinitions(rows: readonly unknown[]) {
  const choices = useAppSelector(({ bench }) => bench.columns);
  const columns = useMemo(() => {
    const hidden = new Set(choices.hidden);
    return inChosenOrder(columnsOf(rows.slice(0, rowsLookedAt), choices), choices.order).filter(({ id }) => !hidden.has(id));
  }, [rows, choices]);
  return useMemo(
    () =>
      columns.map(({ id, names }) => {
        const sample = rows.slice(0, 40).map((row) => valueAt(row, names));
        const label = columnLabel(names);
        const longest = Math.max(label.length * 0.95, ...sample.map((value) => shortText(value).length));
        return helper.accessor((row) => valueAt(row, names), {
          id,
          header: label,
          size: Math.round(Math.min(320, Math.max(64, longest * 7.4 + 26))),
          meta: {
            numeric:
              sample.every((value) => value === undefined || value === null || typeof value === 'number') &&
              sample.some((value) => typeof value === 'number'),
          },
        });
      }),
    // The widths are those that fitted the first page.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [columns.map(({ id }) => id).join()],
  );
}
