import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import IconButton from '@mui/material/IconButton';
import { useState } from 'react';
import { useCommands } from '../../../app/commands.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { tabAdded, tabChosen, tabClosed } from '../../../state/bench/benchSlice.ts';
import type { BenchState, Draft } from '../../../state/bench/benchState.ts';
import { isEdited, writtenIn } from '../../../state/bench/tabTurns.ts';

/** The pipelines that are open, one in front. */
export function TabStrip() {
  const bench = useAppSelector((state) => state.bench, looksTheSame);
  const dispatch = useAppDispatch();
  const [closing, setClosing] = useState<string | null>(null);
  const close = (id: string) => (isEdited(draftOf(bench, id)) ? setClosing(id) : dispatch(tabClosed(id)));
  useCommands([
    { name: 'New pipeline in a tab', run: () => dispatch(tabAdded()) },
    { name: 'Close this tab', run: () => close(bench.tab) },
  ]);
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', minWidth: 0, gap: 0.5 }}>
      <Box
        component="ul"
        aria-label="Open pipelines"
        sx={{
          display: 'flex',
          alignItems: 'center',
          minWidth: 0,
          overflowX: 'auto',
          gap: 0.5,
          scrollbarWidth: 'thin',
          m: 0,
          p: 0,
          listStyle: 'none',
        }}
      >
        {bench.tabs.map(({ id }) => {
          const draft = draftOf(bench, id);
          const isFront = id === bench.tab;
          return <Tab key={id} draft={draft} isFront={isFront} onChoose={() => dispatch(tabChosen(id))} onClose={() => close(id)} />;
        })}
      </Box>
      <IconButton
        size="small"
        aria-label="New pipeline in a tab"
        title="New pipeline"
        onClick={() => dispatch(tabAdded())}
        sx={{ flex: 'none' }}
      >
        <AddIcon sx={{ fontSize: 16 }} />
      </IconButton>
      <Dialog open={closing !== null} onClose={() => setClosing(null)} maxWidth="xs">
        <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Close it without saving?</DialogTitle>
        <DialogContent>
          What stands in {closing !== null && titleOf(draftOf(bench, closing))} has not been saved and would be gone.
        </DialogContent>
        <DialogActions sx={{ px: 3, pb: 2 }}>
          <Button onClick={() => setClosing(null)}>Keep it open</Button>
          <Button
            variant="contained"
            onClick={() => {
              if (closing !== null) dispatch(tabClosed(closing));
              setClosing(null);
            }}
          >
            Close without saving
          </Button>
        </DialogActions>
      </Dialog>
    </Box>
  );
}

interface TabProps {
  readonly draft: Draft;
  readonly isFront: boolean;
  readonly onChoose: () => void;
  readonly onClose: () => void;
}

function Tab({ draft, isFront, onChoose, onClose }: TabProps) {
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        alignItems: 'center',
        flex: 'none',
        borderRadius: 1,
        bgcolor: isFront ? (t) => t.roles.ground : 'transparent',
        border: 1,
        borderColor: isFront ? 'divider' : 'transparent',
        fontSize: 12.5,
        pl: 1,
        pr: 0.25,
        py: 0.25,
      }}
    >
      <Box
        component="button"
        type="button"
        aria-current={isFront}
        onClick={() => !isFront && onChoose()}
        onAuxClick={(event: React.MouseEvent) => event.button === 1 && onClose()}
        title={draft.name ?? (writtenIn(draft).trim() || 'Nothing written yet')}
        sx={{
          all: 'unset',
          cursor: isFront ? 'default' : 'pointer',
          color: isFront ? 'text.primary' : 'text.secondary',
          fontWeight: isFront ? 600 : 450,
          maxWidth: 190,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
          '&:focus-visible': { outline: 'auto' },
        }}
      >
        {titleOf(draft)}
        {draft.name !== null && isEdited(draft) && (
          <Box component="span" sx={{ color: 'secondary.main' }}>
            {' '}
            · edited
          </Box>
        )}
      </Box>
      <IconButton size="small" aria-label={`Close ${titleOf(draft)}`} onClick={onClose} sx={{ p: 0.25, ml: 0.25 }}>
        <CloseIcon sx={{ fontSize: 13 }} />
      </IconButton>
    </Box>
  );
}

/** The draft of a tab; that of the tab in front is what stands on the Bench. */
/** Whether two states look the same in the strip: a letter in the text shows only where it makes the first difference. */
function looksTheSame(a: BenchState, b: BenchState): boolean {
  return a.tabs === b.tabs && a.tab === b.tab && a.name === b.name && isEdited(a) === isEdited(b) && titleOf(a) === titleOf(b);
}

function draftOf(bench: BenchState, id: string): Draft {
  return id === bench.tab ? bench : (bench.tabs.find((tab) => tab.id === id)?.draft ?? bench);
}

/** A name, or what the pipeline reads where it has none yet. */
function titleOf({ name, text, sql }: Draft): string {
  const source = (sql === null ? /^\s*from\s+(\S+)/m : /\bfrom\s+([\w"]+)/i).exec(sql ?? text)?.[1];
  return name ?? (source === undefined ? 'Not saved' : `from ${source}`);
}
