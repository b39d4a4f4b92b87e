import { useBench } from '../../../state/bench/useBench.ts';
import { apiUrl } from '../../../api/apiUrl.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { later } from '../../../parts/later.tsx';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { useAppDispatch, useAppStore } from '../../../app/store.ts';
import { useCopy } from '../../../parts/useCopy.ts';
import { stringify } from '../../../parts/documents/rowsAsText.ts';
import { counted } from '../../../parts/numbers.ts';
import { pinned } from '../../../state/bench/benchSlice.ts';

const StoreDialog = later(async () => (await import('./StoreDialog.tsx')).StoreDialog);

/** What can be done with the rows: pinned to compare with, copied, downloaded. */
export function OutputActions() {
  const { whole, here } = useBench('whole', 'here');
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const copyText = useCopy();
  const [isStoring, setStoring] = useState(false);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const answer = here.answer ?? whole.answer;
  if (answer === null) return null;
  const { result } = answer;
  const copy = (format: Parameters<typeof stringify>[1]) => {
    setAnchor(null);
    copyText(stringify(result.documents, format), `Copied ${counted(result.documents.length, 'row')}.`);
  };
  const button = { fontSize: 12, fontWeight: 500, color: 'text.secondary', py: 0, px: 0.9, minWidth: 0, whiteSpace: 'nowrap' } as const;
  return (
    <Box
      sx={{
        flex: 'none',
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        px: 1.25,
        py: 0.25,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
      }}
    >
      <Button
        size="small"
        sx={button}
        onClick={() => {
          const { text, parameters } = store.getState().bench;
          dispatch(pinned({ text, parameters, rowsReturned: whole.answer?.result.rowsReturned ?? 0 }));
        }}
      >
        Pin to compare
      </Button>
      <Button size="small" sx={button} onClick={(event) => setAnchor(event.currentTarget)}>
        Copy the page
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        <MenuItem onClick={() => copy('json')}>as JSON</MenuItem>
        <MenuItem onClick={() => copy('ndjson')}>as NDJSON</MenuItem>
        <MenuItem onClick={() => copy('csv')}>as CSV</MenuItem>
        <MenuItem onClick={() => copy('markdown')}>as a Markdown table</MenuItem>
      </Menu>
      <Button
        size="small"
        sx={button}
        disabled={result.bounded}
        title={result.bounded ? 'Run in full first' : undefined}
        onClick={() => setStoring(true)}
      >
        Keep the rows
      </Button>
      {isStoring && <StoreDialog runId={result.runId} rows={result.rowsReturned} onClose={() => setStoring(false)} />}
      <Box sx={{ flex: 1 }} />
      <Box sx={{ fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap', display: { xs: 'none', lg: 'block' } }}>all as</Box>
      {(['ndjson', 'json', 'csv'] as const).map((format) => (
        <Button
          key={format}
          size="small"
          sx={button}
          title={`All rows as ${format.toUpperCase()}`}
          href={`${apiUrl('runs', result.runId, `rows.${format}`)}?formulas=guard`}
          download
        >
          {format.toUpperCase()}
        </Button>
      ))}
    </Box>
  );
}
