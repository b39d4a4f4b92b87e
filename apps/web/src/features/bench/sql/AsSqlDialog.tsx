import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { PrintedSql } from '@zesty-sieve/core/language';
import { useAppDispatch } from '../../../app/store.ts';
import { faceChosen } from '../../../state/bench/benchSlice.ts';

/** What of a pipeline SQL cannot say, or says otherwise, before one goes on in SQL. */
export function AsSqlDialog({ printed: { sql, notes }, onClose }: { printed: PrintedSql; onClose: () => void }) {
  const dispatch = useAppDispatch();
  return (
    <Dialog open onClose={onClose} maxWidth="sm">
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>
        {sql === undefined ? 'SQL cannot say all of this' : 'In SQL it is not quite the same'}
      </DialogTitle>
      <DialogContent>
        <Box component="ul" sx={{ m: 0, pl: 2.5, fontSize: 13 }}>
          {notes.map(({ line, message }, i) => (
            <li key={i}>
              Line {line}: {message}
            </li>
          ))}
        </Box>
        {sql === undefined && <Box sx={{ pt: 1.5, fontSize: 13 }}>The pipeline stays as it is.</Box>}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button onClick={onClose}>Stay with the notation</Button>
        {sql !== undefined && (
          <Button
            variant="contained"
            onClick={() => {
              dispatch(faceChosen({ sql }));
              onClose();
            }}
          >
            Go on in SQL
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}
