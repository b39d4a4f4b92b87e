import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { collectionName } from '@zesty-sieve/contract';
import { useCreateCollectionMutation } from '../../api/collections.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';

/** Makes a collection. */
export function NewCollection({ open, onClose, onMade }: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const [name, setName] = useState('');
  const [identity, setIdentity] = useState('@.id');
  const [isScratch, setScratch] = useState(false);
  const [create, { error, isLoading, reset }] = useCreateCollectionMutation();
  const checked = collectionName.safeParse(name);
  const wrong = name !== '' && !checked.success ? checked.error.issues[0]!.message : null;
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
    <FormDialog
      open={open}
      title="New collection"
      action="Make it"
      canSubmit={checked.success && !isLoading}
      onSubmit={submit}
      onClose={close}
    >
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
    </FormDialog>
  );
}
