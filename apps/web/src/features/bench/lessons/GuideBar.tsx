import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ReactNode } from 'react';

interface GuideBarProps {
  readonly label: string;
  readonly children: ReactNode;
  /** What can be done about it. */
  readonly actions: ReactNode;
}

/** A strip above the Bench that leads somebody who is new: never in the way of what is done meanwhile. */
export function GuideBar({ label, children, actions }: GuideBarProps) {
  return (
    <Box
      component="section"
      aria-label={label}
      sx={{
        flex: 'none',
        display: 'flex',
        alignItems: 'center',
        gap: 1.5,
        px: 2,
        py: 0.5,
        minHeight: 38,
        fontSize: 13,
        bgcolor: (t) => t.roles.form,
        borderBottom: '1px dashed',
        borderColor: 'divider',
      }}
    >
      <Box role="status" sx={{ flex: 1, minWidth: 0, lineHeight: 1.35 }}>
        {children}
      </Box>
      {actions}
    </Box>
  );
}

export function GuideAction({
  main = false,
  onClick,
  children,
}: {
  readonly main?: boolean;
  readonly onClick: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Button size="small" variant={main ? 'contained' : 'text'} onClick={onClick} sx={{ flex: 'none', py: 0.25, whiteSpace: 'nowrap' }}>
      {children}
    </Button>
  );
}
