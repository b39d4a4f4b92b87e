import Button from '@mui/material/Button';
import { useState } from 'react';
import { later } from '../../parts/later.tsx';

const PullOutDialog = later(async () => (await import('./PullOutDialog.tsx')).PullOutDialog);

export interface PullOutProps {
  /** What is pulled out, in words: “lines 1 to 3”. */
  readonly lines: string;
  readonly text: string;
  readonly onDone: (name: string) => void;
}

/** Pulls the first lines out as a view, which the pipeline then reads instead. */
export function PullOut(props: PullOutProps) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button
        size="small"
        onClick={() => setOpen(true)}
        sx={{ ml: 'auto', minWidth: 0, px: 0.9, py: 0, fontSize: 12, fontWeight: 500, color: 'text.secondary' }}
      >
        pull out as a view
      </Button>
      {isOpen && <PullOutDialog {...props} onClose={() => setOpen(false)} />}
    </>
  );
}
