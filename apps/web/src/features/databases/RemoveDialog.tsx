import TextField from '@mui/material/TextField';
import type { DatabaseInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useRemoveDatabaseMutation } from '../../api/databases.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';

/** Removes a database, once its name has been typed. */
export function RemoveDialog({ database: { name, file }, onClose }: { readonly database: DatabaseInfo; readonly onClose: () => void }) {
  const [typed, setTyped] = useState('');
  const [remove, { error, isLoading }] = useRemoveDatabaseMutation();
  const submit = async () => {
    const isGone = await remove(name).unwrap().then(() => true, () => false); // prettier-ignore
    if (isGone) window.location.assign('/bench');
  };
  return (
    <FormDialog
      title={`Remove ${name}`}
      action="Remove it for good"
      canSubmit={typed === name && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <span>
        All its collections, pipelines, publications and runs go, with the file {file}. This cannot be taken back: back it up first.
      </span>
      <TextField
        label={`Type ${name}`}
        autoFocus
        value={typed}
        onChange={(event) => setTyped(event.target.value)}
        error={error !== undefined}
        helperText={error === undefined ? undefined : problemText(error)}
      />
    </FormDialog>
  );
}
