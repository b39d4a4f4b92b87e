import type { MaterializedInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { apiUrl } from '../../../api/apiUrl.ts';
import { JobFailed, followJob } from '../../../api/job.ts';
import { pipelinesApi, useCancelRefreshMutation } from '../../../api/pipelines.ts';
import { useAppDispatch } from '../../../app/store.ts';

interface Refreshing {
  /** How far it is; undefined where nothing is under way. */
  readonly progress: { readonly phase: 'computing' | 'storing'; readonly rows: number } | undefined;
  readonly problem: string | undefined;
  readonly start: () => void;
  readonly cancel: () => void;
}

/** Makes the rows of a view anew, and tells how far that is. It goes on when whoever asked looks at something else. */
export function useRefresh(name: string): Refreshing {
  const dispatch = useAppDispatch();
  const [progress, setProgress] = useState<Refreshing['progress']>();
  const [problem, setProblem] = useState<string>();
  const [end] = useCancelRefreshMutation();
  const start = (): void => {
    setProblem(undefined);
    setProgress({ phase: 'computing', rows: 0 });
    const events = { signal: new AbortController().signal, onProgress: setProgress };
    followJob<MaterializedInfo, NonNullable<Refreshing['progress']>>(apiUrl('pipelines', name, 'refresh'), {}, events)
      .catch((error: unknown) =>
        setProblem(error instanceof JobFailed ? error.message : 'The server does not answer. Is it still running?'),
      )
      .finally(() => {
        setProgress(undefined);
        dispatch(pipelinesApi.util.invalidateTags(['Pipelines']));
      });
  };
  return { progress, problem, start, cancel: () => void end(name) };
}
