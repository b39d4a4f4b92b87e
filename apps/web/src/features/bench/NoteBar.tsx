import Box from '@mui/material/Box';
import type { ReactNode } from 'react';

/** What to notice about the pipeline that is open. */
export function NoteBar({ children }: { children: ReactNode }) {
  return (
    <Box
      sx={{
        px: 2,
        py: 0.9,
        fontSize: 12.5,
        color: 'text.secondary',
        bgcolor: (t) => t.roles.form,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      {children}
    </Box>
  );
}
