import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { usePipelinesQuery, useRemovePipelineMutation, useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppStore } from '../../app/store.ts';
import { parametersFor } from '../../state/bench/parameters.ts';
import { saved } from '../../state/bench/benchSlice.ts';
import { bodyOf } from './pipelines/bodyOf.ts';

/**
 * Keeps the pipeline that is open under its name, and removes it with a way back.
 * @param onNameless called instead where it has no name yet
 */
export function useSaving(name: string | null, onNameless: () => void): { saveNow: () => void; removeSaved: () => void } {
  const { data: pipelines = [] } = usePipelinesQuery();
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [save] = useSavePipelineMutation();
  const [remove] = useRemovePipelineMutation();
  const told = (error: unknown) => void enqueueSnackbar(problemText(error), { variant: 'error', autoHideDuration: 12_000 });
  const saveNow = () => {
    if (name === null) {
      onNameless();
      return;
    }
    const { tab, text, sql, note, guards, parameters, chart } = store.getState().bench;
    void save({
      name,
      ...(sql === null ? { pipeline: text } : { sql }),
      // What others read stays readable.
      view: pipelines.find((one) => one.name === name)?.view ?? false,
      parameters: parametersFor(parameters),
      ...(note && { note }),
      ...(guards && { guards }),
      ...(chart && { chart: { ...chart } }),
    })
      .unwrap()
      .then(() => dispatch(saved({ tab, name, note, text: sql ?? text })), told);
  };
  const removeSaved = () => {
    if (name === null) return;
    const kept = pipelines.find((one) => one.name === name);
    void remove(name)
      .unwrap()
      .then(
        () =>
          enqueueSnackbar(`Removed ${name}.`, {
            action: (key) => (
              <Button
                color="inherit"
                onClick={() => {
                  closeSnackbar(key);
                  if (kept) void save(bodyOf(kept)).unwrap().catch(told);
                }}
              >
                Undo
              </Button>
            ),
          }),
        told,
      );
  };

  return { saveNow, removeSaved };
}
