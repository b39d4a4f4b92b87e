import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useRef, useState, type RefObject } from 'react';
import { useNavigate } from 'react-router';
import { useHotkeys } from 'react-hotkeys-hook';
import { useCommands } from '../../app/commands.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { SaveDialog } from './SaveDialog.tsx';
import { PipelineMenu } from './pipelines/PipelineMenu.tsx';
import { later } from '../../parts/later.tsx';
import { useSaving } from './useSaving.tsx';
import { savedDraft } from '../../state/bench/savedDraft.ts';
import { writtenIn } from '../../state/bench/tabTurns.ts';
import { opened, tabAdded } from '../../state/bench/benchSlice.ts';

const PipelinePanel = later(async () => (await import('./pipelines/PipelinePanel.tsx')).PipelinePanel);
const LessonList = later(async () => (await import('./lessons/LessonList.tsx')).LessonList);
const everywhere = { preventDefault: true, enableOnFormTags: true, enableOnContentEditable: true };

/** Saving the pipeline in front, the saved ones to open, and what else can be done with it. */
export function SavedMenu() {
  const { name, recent } = useBench('name', 'recent');
  const canSave = useAppSelector(({ bench }) =>
    bench.name === null ? writtenIn(bench).trim() !== '' : writtenIn(bench) !== bench.savedText,
  );
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const [isSaving, setSaving] = useState(false);
  const [isListing, setListing] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const { saveNow, removeSaved } = useSaving(name, () => setSaving(true));
  useHotkeys('mod+s', saveNow, everywhere);
  useHotkeys('mod+o', () => setListing(true), everywhere);
  useCommands([
    { name: 'Open a saved pipeline', keys: 'Ctrl O', run: () => setListing(true) },
    ...(canSave ? [{ name: 'Save', keys: 'Ctrl S', run: saveNow }] : []),
    { name: 'Save under another name', run: () => setSaving(true) },
    { name: 'Open a .zsieve or .sql file', run: () => file.current?.click() },
    ...(name === null ? [] : [{ name: `Publish ${name}`, run: () => void navigate(`/publish?pipeline=${encodeURIComponent(name)}`) }]),
  ]);
  const close = () => setListing(false);
  const openInstead = (next: Parameters<typeof opened>[0]) => {
    dispatch(opened(next));
    close();
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.25 }}>
      <Button variant="outlined" onClick={saveNow} disabled={!canSave} sx={{ borderColor: 'divider', bgcolor: 'background.default' }}>
        Save
      </Button>
      <Button
        variant="outlined"
        onClick={() => setListing(true)}
        aria-haspopup="dialog"
        title="Ctrl O"
        sx={{ borderColor: 'divider', bgcolor: 'background.default' }}
      >
        Pipelines
      </Button>
      <PipelineMenu onSaveAs={() => setSaving(true)} onRemove={removeSaved} />
      {isListing && (
        <PipelinePanel
          name={name}
          recent={recent}
          onOpen={(one) => openInstead(savedDraft(one))}
          onNew={() => {
            dispatch(tabAdded());
            close();
          }}
          onFile={() => file.current?.click()}
          onClose={close}
        >
          <LessonList onBegun={close} />
        </PipelinePanel>
      )}
      <PipelineFile input={file} onOpen={openInstead} />
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
