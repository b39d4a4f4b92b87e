import PendingActionsIcon from '@mui/icons-material/PendingActionsOutlined';
import Badge from '@mui/material/Badge';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import LinearProgress from '@mui/material/LinearProgress';
import Popover from '@mui/material/Popover';
import type { UnderWay } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useEndWorkMutation, useWorkQuery } from '../api/work.ts';
import { timeText } from '../parts/dates.ts';
import { counted, percent } from '../parts/numbers.ts';
import { useCommands } from './commands.ts';

/** How often it is asked how far things have come, while any are under way. */
const pollMs = 1_000;

/** All that takes long, in one place: whoever asked for it, in this window or another, also after the page was loaded anew. */
export function WorkMenu() {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [button, setButton] = useState<HTMLElement | null>(null);
  const [isAny, setAny] = useState(false);
  const { data: work = [] } = useWorkQuery(undefined, { pollingInterval: isAny ? pollMs : 0 });
  if (isAny !== work.length > 0) setAny(work.length > 0);
  useCommands([{ name: 'Show what is under way', run: () => setAnchor(button) }]);
  const told = work.length === 0 ? 'Nothing under way' : `${work.length} under way`;
  return (
    <>
      <IconButton
        ref={setButton}
        size="small"
        aria-label={`Work: ${told}`}
        title={told}
        aria-haspopup="dialog"
        onClick={() => setAnchor(button)}
        sx={{ alignSelf: 'center', ml: 0.5 }}
      >
        <Badge
          badgeContent={work.length === 0 ? undefined : work.length}
          sx={{
            '& .MuiBadge-badge': {
              height: 15,
              minWidth: 15,
              fontSize: 10,
              px: 0.5,
              bgcolor: (t) => t.roles.ink,
              color: (t) => t.roles.surface,
            },
          }}
        >
          <PendingActionsIcon sx={{ fontSize: 18 }} />
        </Badge>
      </IconButton>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'Under way', sx: { width: 400, p: 2 } } }}
      >
        <Box component="h2" sx={{ m: 0, pb: work.length > 0 ? 1 : 0.5, fontSize: 13, fontWeight: 700 }}>
          Under way
        </Box>
        {work.length === 0 && (
          <Box sx={{ fontSize: 12.5, color: 'text.secondary' }}>
            Nothing that takes long is being done. Loading, indexes, kept rows, copies and changes are seen here until they are done,
            whichever window asked for them.
          </Box>
        )}
        {work.map((one) => (
          <Entry key={one.id} work={one} />
        ))}
      </Popover>
    </>
  );
}

function Entry({ work }: { readonly work: UnderWay }) {
  const { id, share, documents, since, canBeCancelled } = work;
  const [end, { isLoading, isSuccess }] = useEndWorkMutation();
  const come = [
    share === null ? '' : percent(share),
    documents === undefined ? '' : counted(documents, work.kind === 'refresh' ? 'row' : 'document'),
    `since ${timeText(since)}`,
  ];
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, py: 0.75, borderTop: 1, borderColor: 'divider' }}>
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ fontSize: 13, fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{toldOf(work)}</Box>
        <LinearProgress
          color="info"
          aria-label={toldOf(work)}
          sx={{ my: 0.5 }}
          {...(share !== null && { variant: 'determinate' as const, value: share * 100 })}
        />
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{come.filter((part) => part !== '').join(' · ')}</Box>
      </Box>
      <Button size="small" disabled={!canBeCancelled || isLoading || isSuccess} onClick={() => void end(id)}>
        {isLoading || isSuccess ? 'Ending …' : 'Cancel'}
      </Button>
    </Box>
  );
}

function toldOf({ kind, of, detail }: UnderWay): string {
  switch (kind) {
    case 'load':
      return `Loading a file into ${of}`;
    case 'index':
      return `Building the index ${detail} of ${of}`;
    case 'recall':
      return `Measuring the recall of ${detail} of ${of}`;
    case 'refresh':
      return `Making the rows of ${of}`;
    case 'copy':
      return `Copying ${of} to ${detail}`;
    case 'change':
      return `Changing documents of ${of}`;
  }
} // prettier-ignore
