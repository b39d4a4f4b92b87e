import Alert from '@mui/material/Alert';
import AlertTitle from '@mui/material/AlertTitle';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { ErrorBoundary, type FallbackProps } from 'react-error-boundary';
import { api } from '../api/base.ts';
import { useCopy } from '../parts/useCopy.ts';
import { useAppDispatch } from './store.ts';

/** Catches what a screen throws: the others, and what is being written, go on. */
export function ScreenBoundary({ screen, children }: { screen: string; children: ReactNode }) {
  const dispatch = useAppDispatch();
  return (
    <ErrorBoundary
      resetKeys={[screen]}
      // What it could not show may be what has been fetched.
      onReset={() => void dispatch(api.util.resetApiState())}
      fallbackRender={(props) => <Failed screen={screen} {...props} />}
    >
      {children}
    </ErrorBoundary>
  );
}

function Failed({ screen, error, resetErrorBoundary }: FallbackProps & { screen: string }) {
  const copy = useCopy();
  const { message, stack } = error instanceof Error ? error : { message: String(error), stack: undefined };
  const details = [`${screen} failed at ${new Date().toISOString()}`, navigator.userAgent, location.pathname, stack ?? message].join('\n');
  return (
    <Box sx={{ flex: 1, p: 4, overflow: 'auto' }}>
      <Alert
        severity="error"
        role="alert"
        sx={{ maxWidth: 720 }}
        action={
          <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, whiteSpace: 'nowrap' }}>
            <Button color="inherit" variant="outlined" onClick={resetErrorBoundary}>
              Try again
            </Button>
            <Button color="inherit" onClick={() => location.reload()}>
              Load the page anew
            </Button>
            <Button color="inherit" onClick={() => copy(details, 'The details were copied.')}>
              Copy details
            </Button>
          </Box>
        }
      >
        <AlertTitle>This screen failed</AlertTitle>
        It met something that it cannot show: {message}. The other screens go on, and the pipelines that you are writing are kept. If it
        happens again, report it with a copy of the details; they hold no documents.
      </Alert>
    </Box>
  );
}
