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
  return (row) => {
    void remove({ collection, identity: identityOf(row), etag: null })
      .unwrap()
      .then(
        () => {
          onRemoved(row);
          enqueueSnackbar(`${identityOf(row)} removed.`, {
            action: (key) => (
              <Button
                color="inherit"
                onClick={() => {
                  closeSnackbar(key);
                  void add({ collection, body: JSON.stringify(row) }).then(onPutBack);
                }}
              >
                Put it back at the end
              </Button>
            ),
          });
        },
        (failed: unknown) => enqueueSnackbar(problemText(failed), { variant: 'error' }),
      );
  };
}
