import { useBench } from '../../../state/bench/useBench.ts';
import { useCallback, useEffect, useRef } from 'react';
import { conditionParametersOf, parametersOf, type CheckedPipeline } from '@zesty-sieve/core/language';
import { useAppDispatch } from '../../../app/store.ts';
import { ask, stoppedByHand } from '../../../state/bench/ask.ts';
import { cleared } from '../../../state/bench/benchSlice.ts';
import type { Asked } from '../../../state/bench/benchState.ts';

const typingPauseMs = 350;

type Running = ReturnType<ReturnType<typeof ask>>;

/**
 * Asks the server as the text and the cursor move: a bounded run when typing pauses, and a full one when it is asked
 * for. What is overtaken is ended at the server too.
 */
// eslint-disable-next-line max-lines-per-function -- its effects share what is running and what was asked in full
export function useRuns(checked: CheckedPipeline, canAsk = true): { runInFull: () => void; stop: () => void } {
  const dispatch = useAppDispatch();
  const { text, sql, cursorLine, guards, loaded, parameters, only, indexChoice } = useBench(
    'text',
    'sql',
    'cursorLine',
    'guards',
    'loaded',
    'parameters',
    'only',
    'indexChoice',
  );
  const running = useRef<{ whole?: Running; here?: Running }>({});
  /** The text for which a full run was asked, until it is changed. */
  const fullText = useRef<string | null>(null);

  const start = useCallback(
    (slot: 'whole' | 'here', question: Asked) => {
      const asked = sql === null ? question : { ...question, sql };
      running.current[slot]?.abort();
      running.current[slot] = dispatch(ask({ slot, asked, guards, parameters, only, indexChoice }));
    },
    [dispatch, sql, guards, parameters, only, indexChoice],
  );

  const stages = checked.stages.filter(({ placed }) => !placed.off);
  // A condition that is not given holds.
  const given = conditionParametersOf(checked.pipeline.stages.flatMap(({ stage }) => stage ?? []));
  // A parameter without a value is asked for in its bar, not refused line by line.
  const bound =
    canAsk &&
    checked.pipeline.stages.length > 0 &&
    parametersOf(checked.pipeline).every((name) => given.includes(name) || (parameters[name] ?? '').trim() !== '');
  const isSound = bound && stages.length > 0 && !checked.diagnostics.some(({ severity }) => severity === 'error');
  const lastStage = stages[stages.length - 1]?.placed.line ?? 1;
  const here = checked.stages.findLast(({ placed }) => placed.line <= cursorLine)?.placed.line ?? 1;
  // What comes out at the last line is what comes out of the whole.
  const line = here >= lastStage ? undefined : here;
  const hereIsSound = bound && !checked.diagnostics.some(({ severity, line: at }) => severity === 'error' && at <= here);

  useEffect(() => {
    if (!isSound) return undefined;
    // A full run that was asked for meanwhile is not to be overtaken by a bounded one.
    const timer = setTimeout(() => fullText.current !== text && start('whole', { text, full: false }), typingPauseMs);
    return () => clearTimeout(timer);
  }, [text, isSound, start, loaded]);

  useEffect(() => {
    if (line === undefined) {
      running.current.here?.abort();
      dispatch(cleared('here'));
      return undefined;
    }
    if (!hereIsSound || stages.length === 0) return undefined;
    const timer = setTimeout(() => start('here', { text, full: fullText.current === text, line }), typingPauseMs / 2);
    return () => clearTimeout(timer);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the stages follow from the text
  }, [text, line, hereIsSound, start, dispatch, loaded]);

  const runInFull = useCallback(() => {
    fullText.current = text;
    start('whole', { text, full: true });
    if (line !== undefined) start('here', { text, full: true, line });
  }, [text, line, start]);

  const chosenBefore = useRef(indexChoice);
  useEffect(() => {
    // A full run is made again by the other way; a bounded one follows of itself.
    if (chosenBefore.current !== indexChoice && fullText.current === text) runInFull();
    chosenBefore.current = indexChoice;
    // eslint-disable-next-line react-hooks/exhaustive-deps -- another choice alone asks for it
  }, [indexChoice]);

  const stop = useCallback(() => {
    running.current.whole?.abort(stoppedByHand);
    running.current.here?.abort(stoppedByHand);
  }, []);

  return { runInFull, stop };
}
