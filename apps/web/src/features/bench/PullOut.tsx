import Button from '@mui/material/Button';
import { useState } from 'react';
import type { PullOutProps } from './pullOutProps.ts';
import { later } from '../../parts/later.tsx';

const PullOutDialog = later(async () => (await import('./PullOutDialog.tsx')).PullOutDialog);

/** Pulls the first lines out as a view, which the pipeline then reads instead. */
export function PullOut(props: PullOutProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button
        size="small"
        onClick={() => setOpen(true)}
        sx={{ flex: 'none', ml: 1, minWidth: 0, px: 0.9, py: 0, fontSize: 12, fontWeight: 500, color: 'text.secondary' }}
      >
        pull out as a view
      </Button>
      {isOpen && <PullOutDialog {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
