import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { collectionName } from '@zesty-sieve/contract';
import { problemText, useCreateCollectionMutation } from '../../api/api.ts';

/** Makes a collection. */
export function NewCollection({ open, onClose, onMade }: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const [name, setName] = useState('');
  const [identity, setIdentity] = useState('@.id');
  const [isScratch, setScratch] = useState(false);
  const [create, { error, isLoading, reset }] = useCreateCollectionMutation();
  const checked = collectionName.safeParse(name);
  const wrong = name !== '' && !checked.success ? checked.error.issues[0].message : null;
  const close = () => {
    reset();
    onClose();
  };
  const submit = async () => {
    const made = await create({ name, identity, scratch: isScratch });
    if (made.error) return;
    setName('');
    close();
    onMade(name);
  };
  return (
    <Dialog open={open} onClose={close} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void submit();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>New collection</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2, pt: '8px !important' }}>
          <TextField
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoFocus
            required
            error={wrong !== null}
            helperText={wrong ?? 'A letter, then letters, digits, _ and -'}
          />
          <TextField
            label="Identity"
            value={identity}
            onChange={(event) => setIdentity(event.target.value)}
            required
            error={error !== undefined}
            helperText={
              error ? problemText(error) : 'The path of the value that is different in every document. A document without one is given one.'
            }
          />
          <FormControlLabel
            control={<Checkbox checked={isScratch} onChange={(event) => setScratch(event.target.checked)} />}
            label="Scratch: only to look at, gone when the server stops"
          />
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={close}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!checked.success || isLoading}>
            Make it
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
