import { useSnackbar } from 'notistack';
import { useCallback, useState } from 'react';
import { problemText, useCreateIndexMutation, useMeasureMutation } from '../../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { compared, parametersFor, viewed } from './benchSlice.ts';

/** Builds an index, measures the question with and without it, and runs it again. */
export function useBuild(
  collection: string | undefined,
  runInFull: () => void,
): { build: (keys: readonly string[]) => void; isBuilding: boolean } {
  const [createIndex] = useCreateIndexMutation();
  const [measure] = useMeasureMutation();
  const [isBuilding, setBuilding] = useState(false);
  const { text, parameters } = useAppSelector(({ bench }) => bench);
  const { enqueueSnackbar } = useSnackbar();
  const dispatch = useAppDispatch();

  const build = useCallback(
    (keys: readonly string[]) => {
      if (collection === undefined) return;
      setBuilding(true);
      void (async () => {
        try {
          const { name } = await createIndex({ collection, keys: [...keys] }).unwrap();
          runInFull();
          // A question that its guards stop without the index has nothing to be measured against.
          const measurement = await measure({ pipeline: text, parameters: parametersFor(parameters), index: name, times: 9 }).unwrap();
          dispatch(compared({ keys: [...keys], text, measurement }));
          dispatch(viewed('plan'));
        } catch (error) {
          enqueueSnackbar(problemText(error), { variant: 'error' });
        } finally {
          setBuilding(false);
        }
      })();
    },
    [collection, createIndex, measure, text, parameters, runInFull, dispatch, enqueueSnackbar],
  );
  return { build, isBuilding };
}
