import TextField from '@mui/material/TextField';
import { collectionName } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppSelector } from '../../app/store.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import type { PullOutProps } from './pullOutProps.ts';
import { parametersFor } from '../../state/bench/ask.ts';

export function PullOutDialog({ lines, text, onDone, onClose }: PullOutProps & { onClose: () => void }) {
  const [name, setName] = useState('');
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const parameters = useAppSelector(({ bench }) => bench.parameters);
  const checked = collectionName.safeParse(name);
  const submit = async () => {
    const done = await save({ name, pipeline: `${text}\n`, view: true, parameters: parametersFor(parameters) });
    if (done.error) return;
    onClose();
    onDone(name);
  };
  return (
    <FormDialog
      title={`Pull ${lines} out as a view`}
      action="Pull out"
      canSubmit={checked.success && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        autoFocus
        label="Name of the view"
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={error !== undefined || (name !== '' && !checked.success)}
        helperText={error ? problemText(error) : 'A letter, then letters, digits, _ and -. Other pipelines can read it too.'}
      />
    </FormDialog>
  );
}
