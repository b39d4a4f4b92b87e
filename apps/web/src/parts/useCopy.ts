import { useSnackbar } from 'notistack';
import { useCallback } from 'react';

/** Copies a text to the clipboard and says so. */
export function useCopy(): (text: string, said?: string) => void {
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(
    (text, said = 'Copied.') =>
      void navigator.clipboard.writeText(text).then(
        () => enqueueSnackbar(said),
        () => enqueueSnackbar('The browser does not let this page copy.', { variant: 'error' }),
      ),
    [enqueueSnackbar],
  );
}
