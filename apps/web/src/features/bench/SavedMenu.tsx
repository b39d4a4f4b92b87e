import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { saveAs } from '../../parts/saveAs.ts';
import { useSnackbar } from 'notistack';
import { useRef, useState } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import { usePipelinesQuery, useRemovePipelineMutation, useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../app/store.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { useCopy } from '../../parts/useCopy.ts';
import { curlCode, fetchCode } from './codeOut.ts';
import { later } from '../../parts/later.tsx';
import { SaveDialog } from './SaveDialog.tsx';
import { savedDraft } from '../../state/bench/savedDraft.ts';
import { parametersFor } from '../../state/bench/ask.ts';
import { opened, saved, tabAdded } from '../../state/bench/benchSlice.ts';

const RenamePipelineDialog = later(async () => (await import('./RenamePipelineDialog.tsx')).RenamePipelineDialog);

/** The pipeline's name, saving it, and the saved ones to open. */
export function SavedMenu() {
  const { data: pipelines = [] } = usePipelinesQuery();
  const { name, recent } = useBench('name', 'recent');
  const canSave = useAppSelector(({ bench }) => (bench.name === null ? bench.text.trim() !== '' : bench.text !== bench.savedText));
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const copy = useCopy();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [isSaving, setSaving] = useState(false);
  const [isRenaming, setRenaming] = useState(false);
  const [save] = useSavePipelineMutation();
  const [remove] = useRemovePipelineMutation();
  const file = useRef<HTMLInputElement>(null);
  const used = recent.flatMap((one) => pipelines.filter((pipeline) => pipeline.name === one));
  const inOrder = [...used, ...pipelines.filter((one) => !used.includes(one))];

  const saveNow = () => {
    if (name === null) {
      setSaving(true);
      return;
    }
    const { text, note, guards, parameters, chart } = store.getState().bench;
    void save({
      name,
      pipeline: text,
      parameters: parametersFor(parameters),
      ...(note && { note }),
      ...(guards && { guards }),
      ...(chart && { chart: { ...chart } }),
    })
      .unwrap()
      .then(
        () => dispatch(saved({ name, note, text })),
        (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error' }),
      );
  };
  useHotkeys('mod+s', saveNow, { preventDefault: true, enableOnFormTags: true, enableOnContentEditable: true });

  const openInstead = (next: Parameters<typeof opened>[0]) => {
    dispatch(opened(next));
    setAnchor(null);
  };
  const text = () => store.getState().bench.text;
  const given = () => parametersFor(store.getState().bench.parameters);
  const copies = [
    ['text', text],
    ['a fetch call in TypeScript', () => fetchCode(window.location.origin, text(), given())],
    ['curl', () => curlCode(window.location.origin, text(), given())],
  ] as const;
  const exportFile = () => {
    saveAs(`${name ?? 'pipeline'}.zsieve`, 'text/plain', text());
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
                if (kept) void save({ name, pipeline: kept.pipeline, view: kept.view, ...(kept.note && { note: kept.note }), ...(kept.guards && { guards: kept.guards }) });
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
      <Button variant="outlined" onClick={saveNow} disabled={!canSave} sx={{ borderColor: 'divider', bgcolor: 'background.default' }}>
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
        {used.length > 0 && <MenuCaption>used last</MenuCaption>}
        {inOrder.map((one, i) => [
          used.length > 0 && i === used.length && <MenuCaption key="others">all others</MenuCaption>,
          <MenuItem
            key={one.name}
            selected={one.name === name}
            onClick={() => openInstead(savedDraft(one))}
            sx={{ display: 'block', whiteSpace: 'normal', py: 0.75 }}
          >
            <Box sx={{ fontWeight: 600 }}>
              {one.name}
              {one.view && (
                <Box component="span" sx={{ color: 'text.secondary', fontWeight: 450 }}>
                  {' '}
                  view
                </Box>
              )}
            </Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{one.note}</Box>
          </MenuItem>,
        ])}
        {pipelines.length === 0 && <MenuItem disabled>No pipeline has been saved yet</MenuItem>}
        <Divider />
        <MenuItem
          onClick={() => {
            dispatch(tabAdded());
            setAnchor(null);
          }}
        >
          New pipeline
        </MenuItem>
        <MenuItem
          onClick={() => {
            const { text: own, note, guards, parameters } = store.getState().bench;
            openInstead({ text: own, note, guards, parameters });
          }}
        >
          Duplicate in a tab of its own
        </MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            setSaving(true);
          }}
        >
          Save under another name
        </MenuItem>
        {copies.map(([label, code]) => (
          <MenuItem
            key={label}
            onClick={() => {
              copy(code());
              setAnchor(null);
            }}
          >
            Copy as {label}
          </MenuItem>
        ))}
        <MenuItem onClick={exportFile}>Export as a .zsieve file</MenuItem>
        <MenuItem onClick={() => file.current?.click()}>Open a .zsieve file</MenuItem>
        {name !== null && (
          <MenuItem
            onClick={() => {
              setAnchor(null);
              setRenaming(true);
            }}
          >
            Rename {name}
          </MenuItem>
        )}
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
      {isRenaming && name !== null && <RenamePipelineDialog name={name} onClose={() => setRenaming(false)} />}
      <SaveDialog open={isSaving} onClose={() => setSaving(false)} />
    </Box>
  );
}

function MenuCaption({ children }: { children: string }) {
  return (
    <Box component="li" role="presentation" sx={{ px: 2, pt: 0.75, fontSize: 11, color: 'text.secondary' }}>
      {children}
    </Box>
  );
}
