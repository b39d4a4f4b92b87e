import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import type { PreviewAnswer } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { count, counted } from '../../../parts/numbers.ts';
import type { Applying } from './useApply.ts';

interface ApplyDialogProps {
  readonly open: boolean;
  readonly collection: string;
  readonly preview: PreviewAnswer;
  readonly applying: Applying | null;
  readonly onClose: () => void;
  readonly onApply: () => void;
  readonly onCancel: () => void;
}

/** Asks before a change is made; for every document of a collection, its name is to be typed. */
export function ApplyDialog({ open, collection, preview, applying, onClose, onApply, onCancel }: ApplyDialogProps) {
  const [typed, setTyped] = useState('');
  useEffect(() => setTyped(''), [open]);
  const isAll = preview.warnings.some(({ code }) => code === 'changes-all');
  const progress = applying?.progress;
  return (
    <Dialog open={open} onClose={applying ? undefined : onClose} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onApply();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Change {counted(preview.changed, 'document')}?</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
          {preview.repeats > 0 && (
            <Box sx={{ color: 'secondary.main' }}>Made twice, this would change documents twice: its conditions still hold afterwards.</Box>
          )}
          <Box>{preview.keeps ? 'It can be taken back as long as nothing else changes those documents.' : 'It cannot be taken back.'}</Box>
          {isAll && (
            <TextField
              label={`Type ${collection} to change all of it`}
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              autoFocus
              disabled={applying !== null}
            />
          )}
          {applying && (
            <Box aria-live="polite">
              <Box sx={{ pb: 0.5 }}>{progress ? `${count(progress.documents)} of ${count(progress.of)} written` : 'Working it out …'}</Box>
              <LinearProgress
                variant={progress ? 'determinate' : 'indeterminate'}
                value={progress ? (progress.documents / Math.max(1, progress.of)) * 100 : 0}
                aria-label="Changing"
              />
            </Box>
          )}
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={applying ? onCancel : onClose}>{applying ? 'Stop, and change nothing' : 'Not yet'}</Button>
          <Button type="submit" variant="contained" autoFocus={!isAll} disabled={applying !== null || (isAll && typed !== collection)}>
            Change {counted(preview.changed, 'document')}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
