import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { databaseHere } from '../../api/database.ts';
import { useCopyCollectionMutation, useDatabasesQuery } from '../../api/databases.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { counted } from '../../parts/numbers.ts';
import { Problem } from '../../parts/Problem.tsx';

/** Copies a collection into another database, with its indexes. */
export function CopyDialog({ collection, onClose }: { readonly collection: string; readonly onClose: () => void }) {
  const { data: databases = [] } = useDatabasesQuery();
  const here = databases.find((one) => (databaseHere === null ? one.isDefault : one.name === databaseHere));
  const others = databases.filter((one) => one !== here && one.damaged === null);
  const [to, setTo] = useState<string>();
  const [name, setName] = useState(collection);
  const [copy, { error, isLoading }] = useCopyCollectionMutation();
  const { enqueueSnackbar } = useSnackbar();
  const target = to ?? others[0]?.name ?? '';
  const submit = async () => {
    const done = await copy({ from: here?.name ?? '', collection, to: target, as: name }).unwrap().catch(() => undefined); // prettier-ignore
    if (done === undefined) return;
    enqueueSnackbar(`${counted(done.documents, 'document')} and ${counted(done.indexes, 'index', 'indexes')} copied into ${target}.`);
    onClose();
  };
  return (
    <FormDialog
      title={`Copy ${collection}`}
      action="Copy"
      canSubmit={target !== '' && name !== '' && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      {others.length === 0 && <span>There is no other database: make one by the menu beside the product’s name.</span>}
      <TextField
        select
        label="Into the database"
        value={target}
        onChange={(event) => setTo(event.target.value)}
        disabled={others.length === 0}
      >
        {others.map((one) => (
          <MenuItem key={one.name} value={one.name}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField label="Its name there" value={name} onChange={(event) => setName(event.target.value)} />
      {error !== undefined && <Problem text={problemText(error)} />}
    </FormDialog>
  );
}
