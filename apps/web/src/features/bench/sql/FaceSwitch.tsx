import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { printSql, usualSurface, type PrintedSql } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useAppDispatch, useAppStore } from '../../../app/store.ts';
import { faceChosen } from '../../../state/bench/benchSlice.ts';
import { useBench } from '../../../state/bench/useBench.ts';
import { AsSqlDialog } from './AsSqlDialog.tsx';

/** The SQL that pipelines came from: whoever goes back finds what was written, not what it is in other words. */
const leftAs = new Map<string, string>();

/** The two faces of a question. What cannot be said in the other is told before anything is left. */
export function FaceSwitch({ isBroken }: { isBroken: boolean }) {
  const { sql } = useBench('sql');
  const [said, setSaid] = useState<PrintedSql>();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { enqueueSnackbar } = useSnackbar();

  const toNotation = () => {
    const { bench } = store.getState();
    if (isBroken && (bench.sql ?? '').trim() !== '') {
      enqueueSnackbar('What is written cannot be read as SQL yet, so it is no pipeline. Mend it first.', { variant: 'warning' });
      return;
    }
    if (bench.sql !== null) leftAs.set(bench.text, bench.sql);
    dispatch(faceChosen({ sql: null }));
  };
  const toSql = () => {
    const { text } = store.getState().bench;
    const known = leftAs.get(text);
    if (known !== undefined || text.trim() === '') {
      dispatch(faceChosen({ sql: known ?? '' }));
      return;
    }
    const printed = printSql(usualSurface.parse(text));
    if (printed.sql !== undefined && printed.notes.length === 0) {
      leftAs.set(text, printed.sql);
      dispatch(faceChosen({ sql: printed.sql }));
    } else setSaid(printed);
  };

  return (
    <>
      <ToggleButtonGroup
        size="small"
        exclusive
        value={sql === null ? 'notation' : 'sql'}
        aria-label="The language of the question"
        onChange={(_event, next: 'notation' | 'sql' | null) => next && (next === 'sql' ? toSql() : toNotation())}
        sx={{ mb: 0.4, flex: 'none' }}
      >
        <ToggleButton value="notation">Notation</ToggleButton>
        <ToggleButton value="sql">SQL</ToggleButton>
      </ToggleButtonGroup>
      {said && <AsSqlDialog printed={said} onClose={() => setSaid(undefined)} />}
    </>
  );
}
