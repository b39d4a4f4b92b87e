import { checkPipeline, outlineSql, translateSql, usualSurface, type CheckedPipeline, type Environment, type SqlTranslation } from '@zesty-sieve/core/language'; // prettier-ignore
import { useEffect, useMemo } from 'react';
import { useAppDispatch } from '../../../app/store.ts';
import { useEnvironment } from '../../../parts/asking/useEnvironment.ts';
import { sqlTranslated } from '../../../state/bench/benchSlice.ts';
import { useBench } from '../../../state/bench/useBench.ts';

interface Translated {
  readonly environment: Environment;
  readonly translation: SqlTranslation;
  /** The pipeline, checked; that of the last SQL that could be read where this cannot be. */
  readonly checked: CheckedPipeline;
  /** Whether it asks about tables and not about documents. */
  readonly isAboutTables: boolean;
}

/** What the SQL on the Bench becomes: kept as the pipeline that everything else there works on. */
export function useTranslation(sql: string): Translated {
  const dispatch = useAppDispatch();
  const { text } = useBench('text');
  const tables = useMemo(() => outlineSql(sql).sources.map(({ name }) => name), [sql]);
  // The shapes that a text needs are those of the tables that it names, whether or not the rest can be read.
  const environment = useEnvironment(useMemo(() => tables.map((name) => `from ${name}`).join('\n'), [tables]));
  const translation = useMemo(() => translateSql(sql, environment), [sql, environment]);
  const { pipeline, clauses, statement } = translation;
  const isAboutTables = statement !== undefined && statement.kind !== 'query';
  useEffect(() => {
    if (isAboutTables) dispatch(sqlTranslated({ text: '', clauses: [] }));
    else if (pipeline !== undefined) dispatch(sqlTranslated({ text: pipeline, clauses: clauses.map((one) => ({ ...one, lines: [...one.lines] })) })); // prettier-ignore
  }, [dispatch, pipeline, clauses, isAboutTables]);
  const checked = useMemo(() => checkPipeline(usualSurface.parse(text), environment), [text, environment]);
  return { environment, translation, checked, isAboutTables };
}
