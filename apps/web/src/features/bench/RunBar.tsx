import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { bytes, duration } from '../../parts/numbers.ts';
import { barHeight } from './layout.ts';
import { useState } from 'react';
import { FaceSwitch } from './sql/FaceSwitch.tsx';
import { GuardsDialog } from './GuardsDialog.tsx';
import { useAppSelector } from '../../app/store.ts';
import { useGuards } from './useGuards.ts';

/** The head of the editor: Run, what stops a run, and what helps to write. */
export function RunBar({
  onRun,
  onStop,
  onFormat,
  onReference,
  isBroken = false,
}: {
  onRun: () => void;
  onStop: () => void;
  onFormat: () => void;
  onReference: () => void;
  /** Whether what is written cannot be read. */
  isBroken?: boolean;
}) {
  const isRunning = useAppSelector(({ bench }) => bench.whole.pending?.asked.full === true);
  const guards = useGuards();
  const [isSetting, setSetting] = useState(false);
  return (
    <Box
      sx={{
        height: barHeight,
        flex: 'none',
        display: 'flex',
        alignItems: 'flex-end',
        gap: 1.75,
        pl: 1.25,
        pr: 2,
        bgcolor: 'background.paper',
        borderBottom: '1px dashed',
        borderColor: 'divider',
      }}
    >
      {/* The head of the flow, where documents are poured in. */}
      <Button
        variant="contained"
        onClick={isRunning ? onStop : onRun}
        sx={{ width: 68, minWidth: 68, px: 0, height: 32, borderRadius: '14px 14px 3px 3px', mb: 0.25 }}
      >
        {isRunning ? 'Stop' : 'Run'}
      </Button>
      <FaceSwitch isBroken={isBroken} />
      <Box sx={{ pb: 1.1, fontSize: 12, color: 'text.secondary', display: 'flex', minWidth: 0, whiteSpace: 'pre' }}>
        {/* Where it is narrow, the guards are what has to be read. */}
        <Box component="span" sx={{ '@media (max-width: 1400px)': { display: 'none' } }}>
          Ctrl Enter ·{' '}
        </Box>
        <Box
          component="button"
          type="button"
          title="Change where a run is stopped"
          onClick={() => setSetting(true)}
          sx={{
            all: 'unset',
            display: 'block',
            minWidth: 0,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            cursor: 'pointer',
            '&:hover': { color: 'text.primary', textDecoration: 'underline' },
            '&:focus-visible': { outline: 'auto' },
          }}
        >
          stops at {duration(guards.timeMs)}, {short(guards.documentsRead)} read, {bytes(guards.memoryBytes)}
        </Box>
      </Box>
      {isSetting && <GuardsDialog onClose={() => setSetting(false)} />}
      <Box sx={{ flex: 1 }} />
      <Button size="small" onClick={onFormat} title="Shift Alt F" sx={{ mb: 0.75, color: 'text.secondary', fontWeight: 500, px: 1 }}>
        Format
      </Button>
      <Button size="small" onClick={onReference} title="?" sx={{ mb: 0.75, color: 'text.secondary', fontWeight: 500, px: 1, minWidth: 0 }}>
        Reference
      </Button>
    </Box>
  );
}

const compact = new Intl.NumberFormat('en', { notation: 'compact' });

function short(value: number): string {
  return compact.format(value).replace(/([A-Z])$/, ' $1');
}
