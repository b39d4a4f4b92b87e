import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import { useMeasureMutation } from '../../../api/asking.ts';
import { useCreateIndexMutation } from '../../../api/indexes.ts';
import { isCancelled, problemText } from '../../../api/problems.ts';
import { checkPipeline, usualSurface } from '@zesty-sieve/core/language';
import { useAppDispatch, useAppSelector, useAppStore } from '../../../app/store.ts';
import { requestOf, type WishedIndex } from '../../../parts/plan/indexNames.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import { compared, viewed } from '../../../state/bench/benchSlice.ts';

/** The collection or view that a text reads first. */
function sourceOf(text: string): string | undefined {
  return checkPipeline(usualSurface.parse(text)).source;
}

/** Builds indexes for the question on the Bench. */
export interface IndexBuilder {
  readonly collection: string | undefined;
  readonly build: (indexes: readonly WishedIndex[]) => void;
  readonly phase: 'idle' | 'building' | 'measuring';
}

/** Builds an index, or a few that are of use together; measures the question with and without, and runs it again. */
export function useBuild(runInFull: () => void): IndexBuilder {
  const [createIndex] = useCreateIndexMutation();
  const [measure] = useMeasureMutation();
  const [phase, setPhase] = useState<IndexBuilder['phase']>('idle');
  const collection = useAppSelector(({ bench }) => sourceOf(bench.text));
  const store = useAppStore();
  const { enqueueSnackbar } = useSnackbar();
  const dispatch = useAppDispatch();

  const build = useCallback(
    (indexes: readonly WishedIndex[]) => {
      if (collection === undefined) return;
      const { text, parameters } = store.getState().bench;
      setPhase('building');
      void (async () => {
        try {
          const names: string[] = [];
          for (const index of indexes) names.push((await createIndex({ collection, ...requestOf(index) }).unwrap()).name);
          setPhase('measuring');
          runInFull();
          // Of indexes that are of use together alone, one that is ignored is all of them ignored.
          const index = names[0]!;
          // A question that its guards stop without the index has nothing to be measured against.
          const measurement = await measure({ pipeline: text, parameters: parametersFor(parameters), index, times: 9 }).unwrap();
          dispatch(compared({ indexes: indexes.map(({ keys }) => [...keys]), text, measurement }));
          dispatch(viewed('plan'));
        } catch (error) {
          enqueueSnackbar(problemText(error), { variant: isCancelled(error) ? 'default' : 'error' });
        } finally {
          setPhase('idle');
        }
      })();
    },
    [collection, createIndex, measure, store, runInFull, dispatch, enqueueSnackbar],
  );
  return { collection, build, phase };
}
