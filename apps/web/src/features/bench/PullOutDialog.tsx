import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { collectionName } from '@zesty-sieve/contract';
import { useState } from 'react';
import { problemText, useSavePipelineMutation } from '../../api/api.ts';
import { useAppSelector } from '../../app/store.ts';
import { parametersFor } from './state/benchSlice.ts';

/** Pulls the first lines out as a view, which the pipeline then reads instead. */
export function PullOutDialog({
  lines,
  text,
  onDone,
  onClose,
}: {
  lines: string;
  text: string;
  onDone: (name: string) => void;
  onClose: () => void;
}) {
  const [name, setName] = useState('');
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const parameters = useAppSelector(({ bench }) => bench.parameters);
  const checked = collectionName.safeParse(name);
  return (
    <Dialog open onClose={onClose} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void save({ name, pipeline: `${text}\n`, view: true, parameters: parametersFor(parameters) })
            .unwrap()
            .then(() => onDone(name))
            .catch(() => undefined);
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Pull {lines} out as a view</DialogTitle>
        <DialogContent sx={{ pt: '8px !important' }}>
          <TextField
            fullWidth
            autoFocus
            label="Name of the view"
            value={name}
            onChange={(event) => setName(event.target.value)}
            error={error !== undefined || (name !== '' && !checked.success)}
            helperText={error ? problemText(error) : 'A letter, then letters, digits, _ and -. Other pipelines can read it too.'}
          />
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!checked.success || isLoading}>
            Pull out
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
