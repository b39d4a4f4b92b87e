import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import type { ReactNode } from 'react';

interface FormDialogProps {
  readonly open?: boolean;
  readonly title: ReactNode;
  /** The words of the button that does it. */
  readonly action: string;
  readonly canSubmit: boolean;
  readonly onSubmit: () => Promise<void>;
  readonly onClose: () => void;
  readonly children: ReactNode;
}

/** A few things to fill in and one thing to do with them; Enter does it, Escape leaves it. */
export function FormDialog({ open = true, title, action, canSubmit, onSubmit, onClose, children }: FormDialogProps) {
  return (
    <Dialog open={open} onClose={onClose} maxWidth="xs">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          if (canSubmit) void onSubmit();
        }}
      >
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>{title}</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column', gap: 2, pt: '8px !important' }}>{children}</DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={!canSubmit}>
            {action}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
