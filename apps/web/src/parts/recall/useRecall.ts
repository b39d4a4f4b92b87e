import type { RecallInfo } from '@zesty-sieve/contract';
import { useEffect, useRef, useState } from 'react';
import { apiUrl } from '../../api/apiUrl.ts';
import { indexesApi } from '../../api/indexes.ts';
import { followJob, JobFailed } from '../../api/job.ts';
import { useAppDispatch } from '../../app/store.ts';

interface Measuring {
  /** 0 to 1 while it is being measured. */
  readonly share: number | undefined;
  readonly problem: string | undefined;
  readonly start: () => void;
  readonly cancel: () => void;
}

/** Measures how many of the true best an index finds; what comes of it is kept with the index. */
export function useRecall(collection: string, name: string): Measuring {
  const dispatch = useAppDispatch();
  const [share, setShare] = useState<number>();
  const [problem, setProblem] = useState<string>();
  const underWay = useRef<AbortController>(undefined);
  useEffect(() => () => underWay.current?.abort(), []);
  const start = (): void => {
    const ending = new AbortController();
    underWay.current = ending;
    setProblem(undefined);
    setShare(0);
    const events = { signal: ending.signal, onProgress: (progress: { readonly share: number }) => setShare(progress.share) };
    followJob<RecallInfo, { readonly share: number }>(apiUrl('collections', collection, 'indexes', name, 'recall'), {}, events)
      .then(() => dispatch(indexesApi.util.invalidateTags([{ type: 'Indexes', id: collection }])))
      .catch((error: unknown) => {
        if (!ending.signal.aborted) setProblem(error instanceof JobFailed ? error.message : 'The server does not answer. Is it still running?');
      })
      .finally(() => underWay.current === ending && setShare(undefined));
  };
  return { share, problem, start, cancel: () => underWay.current?.abort() };
} // prettier-ignore
