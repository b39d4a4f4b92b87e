import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { saveAs } from '../../parts/saveAs.ts';
import { useRef, useState, type RefObject } from 'react';
import { useNavigate } from 'react-router';
import { useHotkeys } from 'react-hotkeys-hook';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { useCommands } from '../../app/commands.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../app/store.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { sqlDialects, useCopySql } from './sql/useCopySql.ts';
import { useCopy } from '../../parts/useCopy.ts';
import { curlCode, fetchCode } from './codeOut.ts';
import { later } from '../../parts/later.tsx';
import { SaveDialog } from './SaveDialog.tsx';
import { savedItems } from './savedItems.tsx';
import { useSaving } from './useSaving.tsx';
import { savedDraft } from '../../state/bench/savedDraft.ts';
import { parametersFor } from '../../state/bench/ask.ts';
import { writtenIn } from '../../state/bench/tabTurns.ts';
import { opened, tabAdded } from '../../state/bench/benchSlice.ts';

const RenamePipelineDialog = later(async () => (await import('./RenamePipelineDialog.tsx')).RenamePipelineDialog);

/** The pipeline's name, saving it, and the saved ones to open. */
export function SavedMenu() {
  const { data: pipelines = [] } = usePipelinesQuery();
  const { name, recent } = useBench('name', 'recent');
  const canSave = useAppSelector(({ bench }) =>
    bench.name === null ? writtenIn(bench).trim() !== '' : writtenIn(bench) !== bench.savedText,
  );
  const navigate = useNavigate();
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const copy = useCopy();
  const copySql = useCopySql();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [isSaving, setSaving] = useState(false);
  const [isRenaming, setRenaming] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { saveNow, removeSaved } = useSaving(name, () => setSaving(true));
  useHotkeys('mod+s', saveNow, { preventDefault: true, enableOnFormTags: true, enableOnContentEditable: true });

  useCommands([
    ...(canSave ? [{ name: 'Save', keys: 'Ctrl S', run: saveNow }] : []),
    { name: 'Save under another name', run: () => setSaving(true) },
    { name: 'Open a .zsieve or .sql file', run: () => file.current?.click() },
    ...(name === null ? [] : [{ name: `Publish ${name}`, run: () => void navigate(`/publish?pipeline=${encodeURIComponent(name)}`) }]),
  ]);
  const chosen = (work: () => void) => () => {
    setAnchor(null);
    work();
  };
  const openInstead = (next: Parameters<typeof opened>[0]) => {
    dispatch(opened(next));
    setAnchor(null);
  };
  const isSql = useAppSelector(({ bench }) => bench.sql !== null);
  const text = () => writtenIn(store.getState().bench);
  const given = () => parametersFor(store.getState().bench.parameters);
  const written = () => (isSql ? { sql: text() } : { pipeline: text() });
  const copies = [
    ['text', text],
    ['a fetch call in TypeScript', () => fetchCode(window.location.origin, written(), given())],
    ['curl', () => curlCode(window.location.origin, written(), given())],
  ] as const;
  const exportFile = () => {
    saveAs(`${name ?? (isSql ? 'question' : 'pipeline')}.${isSql ? 'sql' : 'zsieve'}`, 'text/plain', text());
    setAnchor(null);
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
        {savedItems({ pipelines, recent, name, onOpen: (one) => openInstead(savedDraft(one)) })}
        <Divider />
        <MenuItem onClick={chosen(() => dispatch(tabAdded()))}>New pipeline</MenuItem>
        <MenuItem
          onClick={() => {
            const { text: own, sql, note, guards, parameters } = store.getState().bench;
            openInstead({ text: own, sql, note, guards, parameters });
          }}
        >
          Duplicate in a tab of its own
        </MenuItem>
        <MenuItem onClick={chosen(() => setSaving(true))}>Save under another name</MenuItem>
        {copies.map(([label, code]) => (
          <MenuItem key={label} onClick={chosen(() => copy(code()))}>
            Copy as {label}
          </MenuItem>
        ))}
        {sqlDialects.map(([label, dialect]) => (
          <MenuItem key={dialect} onClick={chosen(() => copySql(dialect))}>
            Copy as SQL for {label}
          </MenuItem>
        ))}
        <MenuItem onClick={exportFile}>Export as a {isSql ? '.sql' : '.zsieve'} file</MenuItem>
        <MenuItem onClick={() => file.current?.click()}>Open a .zsieve or .sql file</MenuItem>
        {name !== null && (
          <MenuItem onClick={chosen(() => void navigate(`/publish?pipeline=${encodeURIComponent(name)}`))}>Publish {name}</MenuItem>
        )}
        {name !== null && <MenuItem onClick={chosen(() => setRenaming(true))}>Rename {name}</MenuItem>}
        {name !== null && (
          <MenuItem onClick={chosen(removeSaved)} sx={{ color: 'error.main' }}>
            Remove {name}
          </MenuItem>
        )}
      </Menu>
      <PipelineFile input={file} onOpen={openInstead} />
      {isRenaming && name !== null && <RenamePipelineDialog name={name} onClose={() => setRenaming(false)} />}
      <SaveDialog open={isSaving} onClose={() => setSaving(false)} />
    </Box>
  );
}

interface PipelineFileProps {
  readonly input: RefObject<HTMLInputElement | null>;
  readonly onOpen: (next: Parameters<typeof opened>[0]) => void;
}

/** A file that somebody picks, opened as what its name says. */
function PipelineFile({ input, onOpen }: PipelineFileProps) {
  return (
    <input
      ref={input}
      type="file"
      accept=".zsieve,.sql,text/plain"
      hidden
      aria-label="Pipeline file"
      onChange={(event) => {
        const [given] = event.target.files ?? [];
        void given?.text().then((read) => onOpen(given.name.endsWith('.sql') ? { text: '', sql: read } : { text: read }));
        event.target.value = '';
      }}
    />
  );
}
