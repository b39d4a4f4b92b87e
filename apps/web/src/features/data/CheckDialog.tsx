import { instantText } from '../../parts/dates.ts';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { CollectionCheck } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { useCancelCheckMutation, useCheckIndexesMutation, useCheckStateQuery } from '../../api/indexes.ts';
import { isCancelled, problemText } from '../../api/problems.ts';
import { codeFont } from '../../app/theme.ts';
import { count, counted, duration, percent } from '../../parts/numbers.ts';

/** How often a check that is under way is looked at. */
const pollMs = 300;

/** Holds the indexes of a collection against its documents, and says what was found; the last time too. */
export function CheckDialog({ collection, onClose }: { collection: string; onClose: () => void }) {
  const [pollingInterval, setPollingInterval] = useState(0);
  const { data } = useCheckStateQuery(collection, { pollingInterval, refetchOnMountOrArgChange: true });
  const [check, { isLoading, error }] = useCheckIndexesMutation();
  const [cancel, cancelling] = useCancelCheckMutation();
  const running = data?.running ?? null;
  const isUnderWay = isLoading || running !== null;
  useEffect(() => setPollingInterval(isUnderWay ? pollMs : 0), [isUnderWay]);
  const last = data?.last ?? null;
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Check {collection}</DialogTitle>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2, fontSize: 13 }}>
        <Box sx={{ color: 'text.secondary' }}>
          The file is looked through, every document is looked up in every index, and every entry held against its document. What follows
          from the documents is mended where it is wrong: counts, and indexes, which are built anew; the documents themselves stay as they
          are.
        </Box>
        {isUnderWay ? (
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }} aria-live="polite">
            <Box sx={{ whiteSpace: 'nowrap' }}>{running === null ? 'Beginning …' : `${running.index}: ${percent(running.share)}`}</Box>
            <LinearProgress
              sx={{ flex: 1 }}
              color="info"
              aria-label={`Checking ${collection}`}
              {...(running !== null && { variant: 'determinate' as const, value: running.share * 100 })}
            />
            <Button disabled={running === null || cancelling.isLoading} onClick={() => void cancel(collection)}>
              Cancel
            </Button>
          </Box>
        ) : error !== undefined && !isCancelled(error) ? (
          <Alert severity="error">{problemText(error)}</Alert>
        ) : last === null ? (
          <Box>It has not been checked yet.</Box>
        ) : (
          <Found check={last} />
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        <Button onClick={onClose}>Close</Button>
        <Button variant="contained" disabled={isUnderWay} onClick={() => void check(collection)}>
          {last === null ? 'Check now' : 'Check again'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Found({ check }: { check: CollectionCheck }) {
  const { indexes, problems, documents, sound, at, ms, file } = check;
  return (
    <>
      <Alert severity={sound ? 'success' : 'warning'} role="status">
        {sound ? 'Everything stands where it should' : 'Something was found'}: {counted(indexes.length, 'index', 'indexes')} over{' '}
        {counted(documents, 'document')}, on {instantText(at)}, in {duration(ms)}.
      </Alert>
      {file?.problems.map((problem) => (
        <Alert key={problem} severity="error">
          The file: {problem}. Load a backup, or export what can be read.
        </Alert>
      ))}
      {file?.mended.map((one) => (
        <Alert key={one} severity="info">
          Mended: {one}.
        </Alert>
      ))}
      {problems.map(({ index, reason }) => (
        <Alert key={index} severity="warning">
          <strong>{index}</strong>: {reason}
        </Alert>
      ))}
      <Table size="small" aria-label="Indexes">
        <TableHead>
          <TableRow>
            <TableCell>Index</TableCell>
            <TableCell align="right">Entries</TableCell>
            <TableCell>Found</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {indexes.map((one) => (
            <TableRow key={one.name}>
              <TableCell sx={{ fontFamily: codeFont }}>{one.name}</TableCell>
              <TableCell align="right">{count(one.entries)}</TableCell>
              <TableCell>{toldOf(one)}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}

function toldOf(one: CollectionCheck['indexes'][number]): string {
  if (one.sound) return 'sound';
  const found = [
    one.entries !== one.expected && `${count(one.expected)} entries expected`,
    one.missing > 0 && `${count(one.missing)} not found`,
    one.repeated > 0 && `${count(one.repeated)} twice`,
    one.misplaced > 0 && `${count(one.misplaced)} out of order`,
    one.absent > 0 && `${counted(one.absent, 'document')} without keys wrong`,
  ].filter(Boolean);
  return `${found.join(', ')}${one.rebuilt ? '; built anew' : ''}`;
}
