import { printSql, usualSurface, type SqlDialect } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useAppStore } from '../../../app/store.ts';
import { useCopy } from '../../../parts/useCopy.ts';

/** Engines that hold documents as JSON in tables `name(id, body)`. */
export const sqlDialects: readonly (readonly [string, SqlDialect])[] = [
  ['SQLite', 'sqlite'],
  ['PostgreSQL', 'postgresql'],
];

/** Copies the pipeline on the Bench as another engine's SQL, and tells what that would answer otherwise or cannot say. */
export function useCopySql(): (dialect: SqlDialect) => void {
  const store = useAppStore();
  const copy = useCopy();
  const { enqueueSnackbar } = useSnackbar();
  return (dialect) => {
    const { sql, notes } = printSql(usualSurface.parse(store.getState().bench.text), dialect);
    const told = notes.map(({ line, message }) => `Line ${line}: ${message}`).join(' ');
    if (sql !== undefined) copy(sql);
    if (told !== '') enqueueSnackbar(told, { variant: sql === undefined ? 'warning' : 'default' });
  };
}
