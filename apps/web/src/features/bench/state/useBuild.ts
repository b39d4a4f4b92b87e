import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import { isCancelled, problemText, useCreateIndexMutation, useMeasureMutation } from '../../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { parametersFor } from './ask.ts';
import { compared, viewed } from './benchSlice.ts';

/** Builds indexes for the question on the Bench. */
export interface IndexBuilder {
  readonly collection: string | undefined;
  readonly build: (keys: readonly string[]) => void;
  readonly phase: 'idle' | 'building' | 'measuring';
}

/** Builds an index, measures the question with and without it, and runs it again. */
export function useBuild(collection: string | undefined, runInFull: () => void): IndexBuilder {
  const [createIndex] = useCreateIndexMutation();
  const [measure] = useMeasureMutation();
  const [phase, setPhase] = useState<IndexBuilder['phase']>('idle');
  const { text, parameters } = useAppSelector(({ bench }) => bench);
  const { enqueueSnackbar } = useSnackbar();
  const dispatch = useAppDispatch();

  const build = useCallback(
    (keys: readonly string[]) => {
      if (collection === undefined) return;
      setPhase('building');
      void (async () => {
        try {
          const { name } = await createIndex({ collection, keys: [...keys] }).unwrap();
          setPhase('measuring');
          runInFull();
          // A question that its guards stop without the index has nothing to be measured against.
          const measurement = await measure({ pipeline: text, parameters: parametersFor(parameters), index: name, times: 9 }).unwrap();
          dispatch(compared({ keys: [...keys], text, measurement }));
          dispatch(viewed('plan'));
        } catch (error) {
          enqueueSnackbar(problemText(error), { variant: isCancelled(error) ? 'default' : 'error' });
        } finally {
          setPhase('idle');
        }
      })();
    },
    [collection, createIndex, measure, text, parameters, runInFull, dispatch, enqueueSnackbar],
  );
  return { collection, build, phase };
}
