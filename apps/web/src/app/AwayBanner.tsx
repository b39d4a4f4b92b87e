import Alert from '@mui/material/Alert';
import Collapse from '@mui/material/Collapse';
import { useAppSelector } from './store.ts';

/** Says that the server is away, as long as it is, and that nothing that is being written is lost by it. */
export function AwayBanner() {
  const isAway = useAppSelector(({ server }) => server.isAway);
  return (
    <Collapse in={isAway} unmountOnExit sx={{ flex: 'none' }}>
      <Alert severity="warning" square role="alert">
        The server is away. What you are writing is kept in this browser; everything is fetched anew when the server is back, which is
        looked for every two seconds.
      </Alert>
    </Collapse>
  );
}
