import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { usePipelinesQuery, useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppStore } from '../../app/store.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { parametersFor } from '../../state/bench/ask.ts';
import { saved } from '../../state/bench/benchSlice.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';

/** Saves the pipeline under a name: its own, or another for a copy. */
export function SaveDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const store = useAppStore();
  const { name: ownName } = useBench('name');
  const { data: pipelines = [] } = usePipelinesQuery();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const [isView, setView] = useState(false);
  useEffect(() => {
    if (!open) return;
    const { bench } = store.getState();
    setName(bench.name ?? '');
    setNote(bench.note ?? '');
    setView(pipelines.find((one) => one.name === bench.name)?.view ?? false);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- filled in once, when it opens
  }, [open]);
  const replaces = pipelines.some((one) => one.name === name.trim()) && name.trim() !== ownName;
  const submit = async () => {
    const { bench } = store.getState();
    const trimmed = name.trim();
    const done = await save({
      name: trimmed,
      pipeline: bench.text,
      view: isView,
      parameters: parametersFor(bench.parameters),
      ...(note.trim() !== '' && { note: note.trim() }),
      ...(bench.guards && { guards: bench.guards }),
      ...(bench.chart && { chart: { ...bench.chart } }),
    });
    if (done.error) return;
    if (isView) enqueueSnackbar(`${trimmed} is a view now: from ${trimmed} reads it.`);
    dispatch(saved({ name: trimmed, note: note.trim() || null, text: bench.text }));
    onClose();
  };
  return (
    <FormDialog
      open={open}
      title="Save the pipeline"
      action={replaces ? 'Replace it' : 'Save'}
      canSubmit={name.trim() !== '' && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        label="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        autoFocus
        required
        error={error !== undefined}
        helperText={error ? problemText(error) : replaces ? 'There is one of that name, which this replaces.' : ' '}
      />
      <TextField label="What to notice (optional)" value={note} onChange={(event) => setNote(event.target.value)} multiline minRows={2} />
      <FormControlLabel
        control={<Checkbox checked={isView} onChange={(event) => setView(event.target.checked)} />}
        label="A view: other pipelines can read it by its name"
      />
    </FormDialog>
  );
}
