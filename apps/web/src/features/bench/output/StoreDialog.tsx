import { zodResolver } from '@hookform/resolvers/zod';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { storeRequest } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useForm } from 'react-hook-form';
import { useNavigate } from 'react-router';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useStoreRowsMutation } from '../../../api/runs.ts';
import { counted } from '../../../parts/numbers.ts';
import { FormField } from '../../../parts/FormField.tsx';
import { FormDialog } from '../../../parts/FormDialog.tsx';

/** Stores all rows of a run as a collection: a new one, in place of one, after one, or merged into one by identity. */
export function StoreDialog({ runId, rows, onClose }: { runId: string; rows: number; onClose: () => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const { control, handleSubmit, watch, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(storeRequest),
    defaultValues: { mode: 'new', collection: '', identity: '@.id' },
  });
  const [store, { error, isLoading }] = useStoreRowsMutation();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const navigate = useNavigate();
  const submit = handleSubmit(async ({ collection: name, mode, identity }) => {
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
  });
  return (
    <FormDialog
      title={`Keep ${counted(rows, 'row')}`}
      action="Store them"
      canSubmit={formState.isValid && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <FormField select label="As" control={control} name="mode">
        <MenuItem value="new">a new collection</MenuItem>
        <MenuItem value="replace">the whole of a collection, in place of what is there</MenuItem>
        <MenuItem value="append">more documents of a collection</MenuItem>
        <MenuItem value="merge">a collection’s documents, replacing those of the same identity</MenuItem>
      </FormField>
      {watch('mode') === 'new' ? (
        <>
          <FormField label="Name" control={control} name="collection" autoFocus />
          <FormField label="Identity" control={control} name="identity" helperText="Rows without one are given one." />
        </>
      ) : (
        <FormField select label="Collection" control={control} name="collection">
          {collections.map((one) => (
            <MenuItem key={one.name} value={one.name}>
              {one.name}, {counted(one.count, 'document')}
            </MenuItem>
          ))}
        </FormField>
      )}
      {error !== undefined && <span role="alert">{problemText(error)}</span>}
    </FormDialog>
  );
}
