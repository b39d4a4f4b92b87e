import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { usePipelinesQuery, useRemovePipelineMutation, useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppStore } from '../../app/store.ts';
import { parametersFor } from '../../state/bench/ask.ts';
import { saved } from '../../state/bench/benchSlice.ts';

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
  const saveNow = () => {
    if (name === null) {
      onNameless();
      return;
    }
    const { text, sql, note, guards, parameters, chart } = store.getState().bench;
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
      .then(
        () => dispatch(saved({ name, note, text: sql ?? text })),
        (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
      );
  };
  const removeSaved = () => {
    if (name === null) return;
    const kept = pipelines.find((one) => one.name === name);
    void remove(name).unwrap().then(
      () =>
        enqueueSnackbar(`Removed ${name}.`, {
          action: (key) => (
            <Button
              color="inherit"
              onClick={() => {
                closeSnackbar(key);
                if (kept) void save({ name, pipeline: kept.pipeline, ...(kept.sql !== null && { sql: kept.sql }), view: kept.view, ...(kept.materialized && { materialized: { refresh: kept.materialized.refresh } }), ...(kept.note && { note: kept.note }), ...(kept.guards && { guards: kept.guards }) });
              }}
            >
              Undo
            </Button>
          ),
        }),
      (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
    ); // prettier-ignore
  };

  return { saveNow, removeSaved };
}
