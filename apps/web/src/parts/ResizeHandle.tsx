import Box from '@mui/material/Box';
import { PanelResizeHandle } from 'react-resizable-panels';

/** Between two panels, wide enough to be taken hold of and as thin as a line to look at. */
export function ResizeHandle({ label, between }: { readonly label: string; readonly between: 'columns' | 'rows' }) {
  const isColumn = between === 'columns';
  return (
    <Box
      component={PanelResizeHandle}
      aria-label={label}
      sx={{
        [isColumn ? 'width' : 'height']: 7,
        [isColumn ? 'mx' : 'my']: '-3px',
        zIndex: 2,
        position: 'relative',
        '&::after': {
          content: '""',
          position: 'absolute',
          ...(isColumn ? { insetBlock: 0, left: 3, width: '1px' } : { insetInline: 0, top: 3, height: '1px' }),
          bgcolor: 'divider',
        },
        '&:hover::after, &:focus-visible::after': { bgcolor: 'text.secondary' },
      }}
    />
  );
}
