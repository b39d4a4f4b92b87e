import { useCallback, useEffect } from 'react';
import { useAppDispatch } from '../../../app/store.ts';
import { ask } from '../../../state/bench/ask.ts';
import { cleared } from '../../../state/bench/benchSlice.ts';

const pauseMs = 350;

/** Asks DESCRIBE, SHOW TABLES and EXPLAIN when typing pauses, and again when Run is pressed. */
export function useTableQuestion(sql: string, isSound: boolean): () => void {
  const dispatch = useAppDispatch();
  const run = useCallback(() => {
    dispatch(cleared('here'));
    void dispatch(ask({ slot: 'whole', asked: { text: '', sql, full: true }, guards: null, parameters: {}, only: [], indexChoice: { kind: 'planned' } })); // prettier-ignore
  }, [dispatch, sql]);
  useEffect(() => {
    if (!isSound) return undefined;
    const timer = setTimeout(run, pauseMs);
    return () => clearTimeout(timer);
  }, [run, isSound]);
  return run;
}
