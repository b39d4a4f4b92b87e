import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { collectionName, type StoreBody } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useStoreRowsMutation } from '../../../api/runs.ts';
import { counted } from '../../../parts/numbers.ts';
import { FormDialog } from '../../../parts/FormDialog.tsx';

/** Stores all rows of a run as a collection: a new one, in place of one, after one, or merged into one by identity. */
export function StoreDialog({ runId, rows, onClose }: { runId: string; rows: number; onClose: () => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const [mode, setMode] = useState<StoreBody['mode']>('new');
  const [name, setName] = useState('');
  const [identity, setIdentity] = useState('@.id');
  const [store, { error, isLoading }] = useStoreRowsMutation();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const navigate = useNavigate();
  const checked = collectionName.safeParse(name);
  const submit = async () => {
    const done = await store({ runId, collection: name, mode, ...(mode === 'new' && { identity }) });
    if (done.error) return;
    const { inserted, replaced } = done.data;
    enqueueSnackbar(`${counted(inserted, 'document')} stored in ${name}${replaced > 0 ? `, ${replaced} replaced` : ''}.`, {
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            void navigate(`/data/${encodeURIComponent(name)}`);
          }}
        >
          Show it
        </Button>
      ),
    });
    onClose();
  };
  return (
    <FormDialog
      title={`Keep ${counted(rows, 'row')}`}
      action="Store them"
      canSubmit={checked.success && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField select label="As" value={mode} onChange={(event) => setMode(event.target.value as StoreBody['mode'])}>
        <MenuItem value="new">a new collection</MenuItem>
        <MenuItem value="replace">the whole of a collection, in place of what is there</MenuItem>
        <MenuItem value="append">more documents of a collection</MenuItem>
        <MenuItem value="merge">a collection’s documents, replacing those of the same identity</MenuItem>
      </TextField>
      {mode === 'new' ? (
        <>
          <TextField
            label="Name"
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoFocus
            error={name !== '' && !checked.success}
          />
          <TextField
            label="Identity"
            value={identity}
            onChange={(event) => setIdentity(event.target.value)}
            helperText="Rows without one are given one."
          />
        </>
      ) : (
        <TextField select label="Collection" value={name} onChange={(event) => setName(event.target.value)}>
          {collections.map((one) => (
            <MenuItem key={one.name} value={one.name}>
              {one.name}, {counted(one.count, 'document')}
            </MenuItem>
          ))}
        </TextField>
      )}
      {error !== undefined && <span role="alert">{problemText(error)}</span>}
    </FormDialog>
  );
}
