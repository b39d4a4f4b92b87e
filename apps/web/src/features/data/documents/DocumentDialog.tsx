import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { DiffView } from '../../../parts/DiffView.tsx';
import { counted } from '../../../parts/numbers.ts';
import { fetchedOnce, fetchEdited, type Editing, type Loaded } from './edited.ts';
import { useSaveEdited } from './useSaveEdited.ts';
import { JsonEditor } from './JsonEditor.tsx';

/** Edits a document as JSON, or a list of them, showing what differs before it is saved; or adds one or several. */
export function DocumentDialog({ collection, editing, onClose }: { collection: string; editing: Editing | null; onClose: () => void }) {
  const [text, setText] = useState('');
  const [made, setMade] = useState(0);
  const [before, setBefore] = useState<Loaded | null>(null);
  const [isReviewing, setReviewing] = useState(false);
  /** What someone else has made of it meanwhile. */
  const [theirs, setTheirs] = useState<Loaded | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { saveEdited, isBusy } = useSaveEdited(collection);
  const { enqueueSnackbar } = useSnackbar();

  const show = (value: string) => {
    setText(value);
    setMade((n) => n + 1);
  };
  useEffect(() => {
    setReviewing(false);
    setTheirs(null);
    setProblem(null);
    setBefore(null);
    if (editing === null) return undefined;
    if (editing.kind === 'add') return void show(editing.text);
    return fetchedOnce(
      fetchEdited(collection, editing),
      (loaded) => {
        setBefore(loaded);
        show(JSON.stringify(loaded.value, null, 2));
      },
      setProblem,
    );
  }, [collection, editing]);

  const parsed = parse(text);
  const close = () => {
    setProblem(null);
    onClose();
  };
  const save = async (etag: string | null) => {
    if (editing === null || 'problem' in parsed) return;
    const saved = await saveEdited({ editing, text, value: parsed.value, etag, opened: theirs === null ? before : undefined });
    if ('theirs' in saved) setTheirs(saved.theirs);
    else if ('problem' in saved) {
      setProblem(saved.problem);
      setReviewing(false);
    } else {
      enqueueSnackbar(saved.told);
      close();
    }
  };
  const isEdit = editing !== null && editing.kind !== 'add';
  const isSame = isEdit && 'value' in parsed && JSON.stringify(parsed.value) === JSON.stringify(before?.value);
  return (
    <Dialog open={editing !== null} onClose={isBusy ? undefined : close} maxWidth="md">
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>{editing === null ? '' : titleOf(editing)}</DialogTitle>
      <DialogContent sx={{ height: '62vh', display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        {theirs !== null ? (
          <Conflict theirs={theirs.value} mine={'value' in parsed ? parsed.value : null} />
        ) : isReviewing && 'value' in parsed ? (
          <Box sx={{ overflow: 'auto', flex: 1 }}>
            <DiffView before={before?.value} after={parsed.value} />
          </Box>
        ) : (
          <JsonEditor text={text} made={made} onText={setText} label="Document as JSON" />
        )}
        {editing !== null && !isReviewing && <Hint kind={editing.kind} />}
        {(problem ?? ('problem' in parsed && text.trim() !== '' ? parsed.problem : null)) && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5 }}>
            {problem ?? ('problem' in parsed ? parsed.problem : '')}
          </Box>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        {theirs ? (
          <ConflictButtons
            isBusy={isBusy}
            onTheirs={() => {
              setBefore(theirs);
              show(JSON.stringify(theirs.value, null, 2));
              setTheirs(null);
              setReviewing(false);
            }}
            onMine={() => void save(theirs.etag)}
          />
        ) : (
          <>
            <Button onClick={isReviewing ? () => setReviewing(false) : close}>{isReviewing ? 'Back' : 'Cancel'}</Button>
            {isEdit && !isReviewing ? (
              <Button variant="contained" disabled={'problem' in parsed || isSame} onClick={() => setReviewing(true)}>
                See what changes
              </Button>
            ) : (
              <Button variant="contained" disabled={'problem' in parsed || isBusy} onClick={() => void save(before?.etag ?? null)}>
                {editing?.kind === 'add' ? 'Add' : 'Save'}
              </Button>
            )}
          </>
        )}
      </DialogActions>
    </Dialog>
  );
}

function Conflict({ theirs, mine }: { readonly theirs: unknown; readonly mine: unknown }) {
  return (
    <>
      <Box role="alert" sx={{ color: 'secondary.main' }}>
        Someone else has changed it since you opened it. On the left of each difference (−) is what is stored now, on the right (+) is
        yours.
      </Box>
      <Box sx={{ overflow: 'auto', flex: 1 }}>
        <DiffView before={theirs} after={mine} />
      </Box>
    </>
  );
}

interface ConflictButtonsProps {
  readonly isBusy: boolean;
  readonly onTheirs: () => void;
  readonly onMine: () => void;
}

function ConflictButtons({ isBusy, onTheirs, onMine }: ConflictButtonsProps) {
  return (
    <>
      <Button onClick={onTheirs}>Start from what is stored</Button>
      <Button variant="contained" disabled={isBusy} onClick={onMine}>
        Save mine over it
      </Button>
    </>
  );
}

const hints: Readonly<Record<Editing['kind'], string | undefined>> = {
  add: 'One document, or an array of them: all are stored, or none.',
  list: 'Each is replaced whole by the one of its identity here; those of other identities are added. One that you take out of the list stays as it is.',
  edit: undefined,
};

function Hint({ kind }: { readonly kind: Editing['kind'] }) {
  return hints[kind] === undefined ? null : <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{hints[kind]}</Box>;
}

function titleOf(editing: Editing): string {
  if (editing.kind === 'edit') return `Document ${editing.identity}`;
  return editing.kind === 'list' ? `${counted(editing.identities.length, 'document')} as a list` : 'Add documents';
}

function parse(text: string): { readonly value: unknown } | { readonly problem: string } {
  try {
    return { value: JSON.parse(text) as unknown };
  } catch (error) {
    return { problem: `This is no JSON: ${(error as Error).message}` };
  }
}
