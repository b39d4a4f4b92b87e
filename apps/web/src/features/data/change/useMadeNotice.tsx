import Button from '@mui/material/Button';
import type { ChangeAnswer } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useUndoChangeMutation } from '../../../api/changes.ts';
import { problemText } from '../../../api/problems.ts';
import { counted } from '../../../parts/numbers.ts';

/** Tells of a change that has been made, with a way back where what documents were is kept. */
export function useMadeNotice(collection: string, onUndone: () => void): (change: ChangeAnswer) => void {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [undo] = useUndoChangeMutation();
  return ({ changeId, changed, kept }) => {
    enqueueSnackbar(`${counted(changed, 'document')} changed.${kept ? '' : ' What they were is not kept.'}`, {
      variant: 'success',
      autoHideDuration: 15_000,
      action: kept
        ? (key) => (
            <Button
              color="inherit"
              onClick={() => {
                closeSnackbar(key);
                void undo({ id: changeId, collection })
                  .unwrap()
                  .then(
                    ({ restored }) => enqueueSnackbar(`${counted(restored, 'document')} put back as before.`),
                    (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
                  )
                  .finally(onUndone);
              }}
            >
              Undo
            </Button>
          )
        : undefined,
    });
  };
}
