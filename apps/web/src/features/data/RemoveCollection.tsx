import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogContentText from '@mui/material/DialogContentText';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { problemText, useRemoveCollectionMutation } from '../../api/api.ts';
import { counted } from '../../parts/numbers.ts';

/** Removes a collection, once its name has been typed: it cannot be taken back. */
export function RemoveCollection({
  collection,
  onClose,
  onRemoved,
}: {
  collection: CollectionInfo | null;
  onClose: () => void;
  onRemoved: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [remove, { error, isLoading }] = useRemoveCollectionMutation();
  if (collection === null) return null;
  const close = () => {
    setTyped('');
    onClose();
  };
  const submit = async () => {
    const done = await remove(collection.name);
    if (done.error) return;
    close();
    onRemoved();
  };
  return (
    <Dialog open onClose={close} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (typed === collection.name) void submit();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Remove {collection.name}?</DialogTitle>
        <DialogContent>
          <DialogContentText sx={{ pb: 2, fontSize: 13 }}>
            Its {counted(collection.count, 'document')} and its indexes go, and cannot be brought back. Type the collection’s name to go on.
          </DialogContentText>
          <TextField
            fullWidth
            autoFocus
            label="Name of the collection"
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            error={error !== undefined}
            helperText={error ? problemText(error) : ' '}
          />
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={close}>Keep it</Button>
          <Button type="submit" variant="contained" color="error" disabled={typed !== collection.name || isLoading}>
            Remove {counted(collection.count, 'document')}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
