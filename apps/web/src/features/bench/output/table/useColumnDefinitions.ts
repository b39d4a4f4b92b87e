import { createColumnHelper } from '@tanstack/react-table';
import { useContext, useMemo } from 'react';
import { useAppSelector } from '../../../../app/store.ts';
import { columnLabel, columnsOfPages, inChosenOrder, shortText, valueAt, withFirst } from '../../../../parts/documents/columns.ts';

import { LineChanges, markOf } from '../lineChanges.ts';

const helper = createColumnHelper<unknown>();

/** The columns of rows: those that were not hidden, in the order chosen, as wide as what the first page has in them. */
export function useColumnDefinitions(rows: readonly unknown[]) {
  const choices = useAppSelector(({ bench }) => bench.columns);
  const changes = useContext(LineChanges);
  const columns = useMemo(() => {
    const hidden = new Set(choices.hidden);
    const all = columnsOfPages(rows, choices);
    const leads = choices.addedFirst && choices.order.length === 0 && changes?.adds === true;
    const ordered = leads ? withFirst(all, ({ names }) => markOf(changes, names) === 'added') : inChosenOrder(all, choices.order);
    return ordered.filter(({ id }) => !hidden.has(id));
  }, [rows, choices, changes]);
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
