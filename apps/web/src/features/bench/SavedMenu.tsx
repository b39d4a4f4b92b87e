import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { problemText, usePipelinesQuery, useRemovePipelineMutation, useSavePipelineMutation } from '../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { SaveDialog } from './SaveDialog.tsx';
import { opened, parametersFor, saved } from './state/benchSlice.ts';

/** The pipeline's name, saving it, and the saved ones to open. */
export function SavedMenu() {
  const { data: pipelines = [] } = usePipelinesQuery();
  const bench = useAppSelector((state) => state.bench);
  const { name, text, savedText, note, guards, parameters } = bench;
  const dispatch = useAppDispatch();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [isSaving, setSaving] = useState(false);
  const [save] = useSavePipelineMutation();
  const [remove] = useRemovePipelineMutation();
  const file = useRef<HTMLInputElement>(null);
  const isEdited = name === null ? text.trim() !== '' : text !== savedText;

  const saveNow = () => {
    if (name === null) {
      setSaving(true);
      return;
    }
    void save({ name, pipeline: text, parameters: parametersFor(parameters), ...(note && { note }), ...(guards && { guards }) })
      .unwrap()
      .then(
        () => dispatch(saved({ name, note, text })),
        (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
      );
  };
  const latest = useRef(saveNow);
  useEffect(() => {
    latest.current = saveNow;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 's') {
        event.preventDefault();
        latest.current();
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);

  /** Opens another pipeline; what was not saved can be brought back. */
  const openInstead = (next: Parameters<typeof opened>[0]) => {
    const before = { text, note, guards, parameters, ...(name !== null && { name }) };
    dispatch(opened(next));
    setAnchor(null);
    if (!isEdited || text.trim().split('\n').length < 2) return;
    enqueueSnackbar('What you were writing was not saved.', {
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            dispatch(opened(before));
          }}
        >
          Bring it back
        </Button>
      ),
    });
  };
  const exportFile = () => {
    const link = document.createElement('a');
    link.href = URL.createObjectURL(new Blob([text], { type: 'text/plain' }));
    link.download = `${name ?? 'pipeline'}.zsieve`;
    link.click();
    URL.revokeObjectURL(link.href);
    setAnchor(null);
  };
  const removeSaved = () => {
    if (name === null) return;
    const kept = pipelines.find((one) => one.name === name);
    setAnchor(null);
    void remove(name).unwrap().then(
      () =>
        enqueueSnackbar(`Removed ${name}.`, {
          action: (key) => (
            <Button
              color="inherit"
              onClick={() => {
                closeSnackbar(key);
                if (kept) void save({ name, pipeline: kept.pipeline, ...(kept.note && { note: kept.note }), ...(kept.guards && { guards: kept.guards }) });
              }}
            >
              Undo
            </Button>
          ),
        }),
      (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
    ); // prettier-ignore
  };

  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.25 }}>
      <Box sx={{ color: 'text.secondary', fontSize: 13 }}>
        {name ?? 'Not saved'}
        {name !== null && isEdited && (
          <Box component="span" sx={{ color: 'secondary.main' }}>
            {' '}
            · edited
          </Box>
        )}
      </Box>
      <Button variant="outlined" onClick={saveNow} disabled={!isEdited} sx={{ borderColor: 'divider', bgcolor: 'background.default' }}>
        Save
      </Button>
      <Button
        variant="outlined"
        onClick={(event) => setAnchor(event.currentTarget)}
        aria-haspopup="menu"
        sx={{ borderColor: 'divider', bgcolor: 'background.default' }}
      >
        Pipelines
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)} slotProps={{ paper: { sx: { maxWidth: 460 } } }}>
        {pipelines.map((one) => (
          <MenuItem
            key={one.name}
            selected={one.name === name}
            onClick={() =>
              openInstead({
                text: one.pipeline,
                name: one.name,
                note: one.note,
                guards: one.guards,
                parameters: typedParameters(one.parameters),
              })
            }
            sx={{ display: 'block', whiteSpace: 'normal', py: 0.75 }}
          >
            <Box sx={{ fontWeight: 600 }}>{one.name}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{one.note}</Box>
          </MenuItem>
        ))}
        {pipelines.length === 0 && <MenuItem disabled>No pipeline has been saved yet</MenuItem>}
        <Divider />
        <MenuItem onClick={() => openInstead({ text: '' })}>New pipeline</MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            setSaving(true);
          }}
        >
          Save under another name
        </MenuItem>
        <MenuItem onClick={exportFile}>Export as a .zsieve file</MenuItem>
        <MenuItem onClick={() => file.current?.click()}>Open a .zsieve file</MenuItem>
        {name !== null && (
          <MenuItem onClick={removeSaved} sx={{ color: 'error.main' }}>
            Remove {name}
          </MenuItem>
        )}
      </Menu>
      <input
        ref={file}
        type="file"
        accept=".zsieve,text/plain"
        hidden
        aria-label="Pipeline file"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          void chosen?.text().then((read) => openInstead({ text: read }));
          event.target.value = '';
        }}
      />
      <SaveDialog open={isSaving} onClose={() => setSaving(false)} />
    </Box>
  );
}

/** What stands in the inputs for the values that were saved. */
function typedParameters(parameters: Record<string, unknown> | null): Record<string, string> {
  return Object.fromEntries(
    Object.entries(parameters ?? {}).map(([name, value]) => [name, typeof value === 'string' ? value : JSON.stringify(value)]),
  );
}
