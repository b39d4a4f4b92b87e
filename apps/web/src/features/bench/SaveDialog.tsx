import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { problemText, usePipelinesQuery, useSavePipelineMutation } from '../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { parametersFor, saved } from './state/benchSlice.ts';

/** Saves the pipeline under a name: its own, or another for a copy. */
export function SaveDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const bench = useAppSelector((state) => state.bench);
  const { data: pipelines = [] } = usePipelinesQuery();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const [isView, setView] = useState(false);
  useEffect(() => {
    if (!open) return;
    setName(bench.name ?? '');
    setNote(bench.note ?? '');
    setView(pipelines.find((one) => one.name === bench.name)?.view ?? false);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- filled in once, when it opens
  }, [open]);
  const replaces = pipelines.some((one) => one.name === name.trim()) && name.trim() !== bench.name;
  const submit = async () => {
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
    <Dialog open={open} onClose={onClose} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Save the pipeline</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2, pt: '8px !important' }}>
          <TextField
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoFocus
            required
            error={error !== undefined}
            helperText={error ? problemText(error) : replaces ? 'There is one of that name, which this replaces.' : ' '}
          />
          <TextField
            label="What to notice (optional)"
            value={note}
            onChange={(event) => setNote(event.target.value)}
            multiline
            minRows={2}
          />
          <FormControlLabel
            control={<Checkbox checked={isView} onChange={(event) => setView(event.target.checked)} />}
            label="A view: other pipelines can read it by its name"
          />
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={name.trim() === '' || isLoading}>
            {replaces ? 'Replace it' : 'Save'}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
