import { headingOf, viewOfKind } from './kinds/registry.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useCreateIndexMutation, useDropIndexMutation, useIndexUsersQuery } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { Served } from '../../parts/Served.tsx';

const shown = 8;

/** Drops an index, after telling who would read more without it; the drop can be undone. */
export function DropDialog({ collection, index, onClose }: { collection: string; index: IndexInfo; onClose: () => void }) {
  const { data: users, isFetching } = useIndexUsersQuery({ collection, name: index.name });
  const { drop, isDropping } = useDropWithUndo(collection);
  const worse = (users ?? []).filter(({ without, documentsRead }) => without > documentsRead);
  return (
    <FormDialog
      title={`Drop the index ${index.name}`}
      action="Drop it"
      canSubmit={!isDropping}
      onClose={onClose}
      onSubmit={async () => {
        if (await drop(index)) onClose();
      }}
    >
      <Box sx={{ fontSize: 13 }} aria-live="polite">
        {isFetching
          ? 'Looking who uses it …'
          : worse.length === 0
            ? 'No saved pipeline and no kept run would read more without it.'
            : 'Without it these would read more:'}
      </Box>
      <Served
        label="Who would read more"
        questions={worse.slice(0, shown).map(({ documentsRead, without, ...one }) => ({ ...one, from: documentsRead, to: without }))}
      />
      {worse.length > shown && <Box sx={{ fontSize: 12, color: 'text.secondary' }}>and {worse.length - shown} more</Box>}
    </FormDialog>
  );
}

/** Drops an index and offers to build it again as it was. */
export function useDropWithUndo(collection: string): {
  drop: (index: IndexInfo) => Promise<boolean>;
  isDropping: boolean;
} {
  const [remove, { isLoading }] = useDropIndexMutation();
  const [create] = useCreateIndexMutation();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const drop = async (index: IndexInfo) => {
    const { name, where } = index;
    const done = await remove({ collection, name });
    if (done.error) {
      enqueueSnackbar(problemText(done.error), { variant: 'error' });
      return false;
    }
    const undo = async () => {
      const made = await create({ collection, name, ...viewOfKind(index.kind).again(index), ...(where !== null && { where }) });
      enqueueSnackbar(made.error ? problemText(made.error) : `The index ${name} is back.`, { variant: made.error ? 'error' : 'default' });
    };
    enqueueSnackbar(`Dropped the index on ${headingOf(index)}.`, {
      autoHideDuration: 12_000,
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            void undo();
          }}
        >
          Undo
        </Button>
      ),
    });
    return true;
  };
  return { drop, isDropping: isLoading };
}
