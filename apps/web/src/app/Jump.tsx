import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { usualSurface } from '@zesty-sieve/core/language';
import { useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { useNavigate } from 'react-router';
import { useCollectionsQuery } from '../api/collections.ts';
import { usePipelinesQuery } from '../api/pipelines.ts';
import { jumpedTo, opened } from '../state/bench/benchSlice.ts';
import { savedDraft } from '../state/bench/savedDraft.ts';
import { useOfferedCommands } from './commands.ts';
import { found } from './found.ts';
import { screens } from './screens.ts';
import { useAppDispatch, useAppSelector } from './store.ts';

interface Place {
  readonly kind: string;
  readonly label: string;
  /** The keys that do it without this. */
  readonly keys?: string | undefined;
  readonly go: () => void;
}

/** Ctrl+K: does what can be done here, or goes to a screen, a collection, a saved pipeline or a line, by its name. */
export function Jump() {
  const [isOpen, setOpen] = useState(false);
  useHotkeys('mod+k', () => setOpen((was) => !was), {
    preventDefault: true,
    enableOnFormTags: true,
    enableOnContentEditable: true,
    // Before the editor, where the same keys would delete.
    eventListenerOptions: { capture: true },
  });
  return (
    <Dialog
      open={isOpen}
      onClose={() => setOpen(false)}
      slotProps={{ paper: { 'aria-label': 'Jump to', 'aria-labelledby': undefined, sx: { alignSelf: 'flex-start', mt: '12vh' } } }}
    >
      <JumpList onDone={() => setOpen(false)} />
    </Dialog>
  );
}

function JumpList({ onDone }: { onDone: () => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const { data: pipelines = [] } = usePipelinesQuery();
  const text = useAppSelector(({ bench }) => bench.text);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const to = (address: string) => () => void navigate(address);
  const commands = useOfferedCommands();
  const places: Place[] = [
    ...commands.map(({ name, keys, run }) => ({ kind: 'do', label: name, keys, go: run })),
    ...screens.map(([address, label]) => ({ kind: 'screen', label, go: to(address) })),
    ...pipelines.map((saved) => ({
      kind: 'pipeline',
      label: saved.name,
      go: () => {
        dispatch(opened(savedDraft(saved)));
        to('/bench')();
      },
    })),
    ...collections.flatMap(({ name }) => [
      { kind: 'collection', label: name, go: to(`/data/${name}`) },
      { kind: 'indexes of', label: name, go: to(`/indexes/${name}`) },
    ]),
    ...usualSurface.parse(text).stages.map(({ line, from, to: end }) => ({
      kind: 'line',
      label: `${line} ${text.slice(from, end).split('\n')[0]}`,
      go: () => {
        dispatch(jumpedTo(line));
        to('/bench')();
      },
    })),
  ]; // prettier-ignore
  return (
    <Autocomplete
      open
      autoHighlight
      options={places}
      filterOptions={(options, { inputValue }) => found(options, inputValue)}
      getOptionKey={({ kind, label }) => `${kind} ${label}`}
      getOptionLabel={({ kind, label }) => `${label} ${kind}`}
      onChange={(_event, place) => {
        if (place === null) return;
        onDone();
        place.go();
      }}
      renderOption={({ key, ...props }, { kind, label, keys }) => (
        <Box component="li" key={key} {...props} sx={{ display: 'flex', justifyContent: 'space-between !important', gap: 2, fontSize: 13 }}>
          <span>{label}</span>
          <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
            {keys === undefined ? kind : <kbd>{keys}</kbd>}
          </Box>
        </Box>
      )}
      renderInput={(parameters) => (
        <TextField
          {...parameters}
          autoFocus
          placeholder="Do something, or jump to a screen, a pipeline, a collection, a line"
          sx={{ p: 1 }}
          slotProps={{ ...parameters.slotProps, htmlInput: { ...parameters.slotProps.htmlInput, 'aria-label': 'Jump to' } }}
        />
      )}
    />
  );
}
