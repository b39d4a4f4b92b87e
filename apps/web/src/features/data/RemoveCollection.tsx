import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogContentText from '@mui/material/DialogContentText';
import DialogTitle from '@mui/material/DialogTitle';
import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { useClearCollectionMutation, useRemoveCollectionMutation } from '../../api/collections.ts';
import { problemText } from '../../api/problems.ts';
import { FormField } from '../../parts/FormField.tsx';
import { counted } from '../../parts/numbers.ts';

/** Removes a collection, or all of its documents, once its name has been typed: it cannot be taken back. */
export function RemoveCollection({
  collection,
  what,
  onClose,
  onRemoved,
}: {
  collection: CollectionInfo;
  what: 'collection' | 'documents' | null;
  onClose: () => void;
  onRemoved: () => void;
}) {
  const { control, handleSubmit, reset, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(z.object({ name: z.string().refine((typed) => typed === collection.name, ' ') })),
    defaultValues: { name: '' },
  });
  const { isValid } = formState;
  const [remove, removing] = useRemoveCollectionMutation();
  const [clear, clearing] = useClearCollectionMutation();
  const error = removing.error ?? clearing.error;
  const isLoading = removing.isLoading || clearing.isLoading;
  if (what === null) return null;
  const close = () => {
    reset();
    onClose();
  };
  const submit = handleSubmit(async () => {
    const done = what === 'collection' ? await remove(collection.name) : await clear(collection.name);
    if (done.error) return;
    close();
    onRemoved();
  });
  return (
    <Dialog open onClose={close} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (isValid) void submit();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>
          {what === 'collection' ? `Remove ${collection.name}?` : `Remove all documents of ${collection.name}?`}
        </DialogTitle>
        <DialogContent>
          <DialogContentText sx={{ pb: 2, fontSize: 13 }}>
            {what === 'collection'
              ? `Its ${counted(collection.count, 'document')} and its indexes go, and cannot be brought back.`
              : `${counted(collection.count, 'document')} go, and cannot be brought back; the collection and its indexes stay.`}{' '}
            Type the collection’s name to go on.
          </DialogContentText>
          <FormField
            fullWidth
            autoFocus
            label="Name of the collection"
            control={control}
            name="name"
            error={error !== undefined}
            helperText={error ? problemText(error) : ' '}
          />
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={close}>Keep it</Button>
          <Button type="submit" variant="contained" color="error" disabled={!isValid || isLoading}>
            Remove {counted(collection.count, 'document')}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
