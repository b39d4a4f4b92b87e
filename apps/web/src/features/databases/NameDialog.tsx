import TextField from '@mui/material/TextField';
import type { DatabaseInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useAddDatabaseMutation, useRenameDatabaseMutation } from '../../api/databases.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { followRenaming } from '../../api/database.ts';
import { goTo } from './goTo.ts';

interface NameDialogProps {
  /** The one that gets another name; none for a new one. */
  readonly of?: DatabaseInfo;
  readonly taken: readonly string[];
  readonly onClose: () => void;
}

/** A name for a database, new or not. */
export function NameDialog({ of, taken, onClose }: NameDialogProps) {
  const [name, setName] = useState(of?.name ?? '');
  const [add, adding] = useAddDatabaseMutation();
  const [rename, renaming] = useRenameDatabaseMutation();
  const isSame = name === of?.name;
  const wrong = name === '' || isSame ? undefined : !/^[A-Za-z][A-Za-z0-9_-]{0,63}$/.test(name) ? 'A letter, then letters, digits, _ and -, at most 64.' : taken.includes(name) ? 'There is a database of this name.' : undefined; // prettier-ignore
  const error = adding.error ?? renaming.error;
  const submit = async () => {
    const made = of === undefined ? await add(name).unwrap().catch(() => undefined) : await rename({ name: of.name, next: name }).unwrap().catch(() => undefined); // prettier-ignore
    if (made === undefined) return;
    onClose();
    // The default one has no name in its address. One that is renamed stays where it is looked at, whoever is told first: this, or the
    // window, by what the server tells of it.
    if (of !== undefined) followRenaming({ calledNow: made.name });
    else if (!made.isDefault) goTo(made.name, false);
  };
  return (
    <FormDialog
      title={of === undefined ? 'New database' : `Rename ${of.name}`}
      action={of === undefined ? 'Make it' : 'Rename'}
      canSubmit={name !== '' && !isSame && wrong === undefined && !adding.isLoading && !renaming.isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        label="Name"
        autoFocus
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={wrong !== undefined || error !== undefined}
        helperText={
          wrong ?? (error === undefined ? 'A file of this name, with its own collections, pipelines and runs.' : problemText(error))
        }
      />
    </FormDialog>
  );
}
