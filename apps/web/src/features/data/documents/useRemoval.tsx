import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useAddDocumentsMutation, useRemoveDocumentMutation } from '../../../api/documents.ts';
import { problemText } from '../../../api/problems.ts';

/** Removes a document, with a way back: it is put at the end, since its place is gone. */
export function useRemoval(
  collection: string,
  identityOf: (row: unknown) => string,
  onRemoved: (row: unknown) => void,
  onPutBack: () => void,
): (row: unknown) => void {
  const [remove] = useRemoveDocumentMutation();
  const [add] = useAddDocumentsMutation();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const told = (failed: unknown) => enqueueSnackbar(problemText(failed), { variant: 'error', autoHideDuration: 12_000 });
  return (row) => {
    void remove({ collection, identity: identityOf(row), etag: null })
      .unwrap()
      .then(() => {
        onRemoved(row);
        enqueueSnackbar(`${identityOf(row)} removed.`, {
          action: (key) => (
            <Button
              color="inherit"
              onClick={() => {
                closeSnackbar(key);
                // Somebody may have taken its identity meanwhile.
                void add({ collection, body: JSON.stringify(row) })
                  .unwrap()
                  .then(onPutBack, told);
              }}
            >
              Put it back at the end
            </Button>
          ),
        });
      }, told);
  };
}
