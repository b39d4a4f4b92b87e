import { apiUrl } from '../../../api/apiUrl.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { useAddDocumentsMutation, usePutDocumentMutation, usePutDocumentsMutation } from '../../../api/documents.ts';
import { problemText } from '../../../api/problems.ts';
import { DiffView } from '../../../parts/DiffView.tsx';
import { counted } from '../../../parts/numbers.ts';
import { JsonEditor } from './JsonEditor.tsx';

/** What is edited: a document that is there, or new ones. */
export type Editing =
  | { readonly kind: 'edit'; readonly identity: string }
  | { readonly kind: 'list'; readonly identities: readonly string[] }
  | { readonly kind: 'add'; readonly text: string };

interface Loaded {
  readonly value: unknown;
  readonly etag: string | null;
}

async function fetchDocument(collection: string, identity: string): Promise<Loaded> {
  const response = await fetch(apiUrl('collections', collection, 'documents', identity));
  const value = (await response.json()) as unknown;
  if (!response.ok) throw new Error(problemText({ data: value }));
  return { value, etag: response.headers.get('etag') };
}

async function fetchDocuments(collection: string, identities: readonly string[]): Promise<Loaded> {
  const response = await fetch(apiUrl('collections', collection, 'documents', 'read'), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ identities }),
  });
  const found = (await response.json()) as { documents: unknown[] };
  if (!response.ok) throw new Error(problemText({ data: found }));
  return { value: found.documents, etag: null };
}

/** What is stored now of what is edited. */
function fetchEdited(collection: string, editing: Exclude<Editing, { kind: 'add' }>): Promise<Loaded> {
  return editing.kind === 'edit' ? fetchDocument(collection, editing.identity) : fetchDocuments(collection, editing.identities);
}

/** Edits a document as JSON, or a list of them, showing what differs before it is saved; or adds one or several. */
export function DocumentDialog({ collection, editing, onClose }: { collection: string; editing: Editing | null; onClose: () => void }) {
  const [text, setText] = useState('');
  const [made, setMade] = useState(0);
  const [before, setBefore] = useState<Loaded | null>(null);
  const [isReviewing, setReviewing] = useState(false);
  /** What someone else has made of it meanwhile. */
  const [theirs, setTheirs] = useState<Loaded | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [put, putting] = usePutDocumentMutation();
  const [add, adding] = useAddDocumentsMutation();
  const [putAll, puttingAll] = usePutDocumentsMutation();
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
    if (editing === null) return;
    if (editing.kind === 'add') {
      show(editing.text);
      return;
    }
    void fetchEdited(collection, editing).then(
      (loaded) => {
        setBefore(loaded);
        show(JSON.stringify(loaded.value, null, 2));
      },
      (error: Error) => setProblem(error.message),
    );
  }, [collection, editing]);

  const parsed = parse(text);
  const close = () => {
    setProblem(null);
    onClose();
  };
  const save = async (etag: string | null) => {
    if (editing === null || 'problem' in parsed) return;
    // Kept as it was written where it is new; an edited one is written compactly, as it was before.
    if (editing.kind === 'list' && theirs === null) {
      // A list has no ETag: what is stored now is compared with what was opened.
      const now = await fetchDocuments(collection, editing.identities);
      if (JSON.stringify(now.value) !== JSON.stringify(before?.value)) {
        setTheirs(now);
        return;
      }
    }
    const body = JSON.stringify(parsed.value);
    const done =
      editing.kind === 'add'
        ? await add({ collection, body: text })
        : editing.kind === 'list'
          ? await putAll({ collection, body })
          : await put({ collection, identity: editing.identity, body, etag });
    if (!('error' in done) || done.error === undefined) {
      const { inserted = 0, replaced = 0 } = done.data as { inserted?: number; replaced?: number };
      enqueueSnackbar(
        {
          add: `${counted(inserted, 'document')} added.`,
          list: `${counted(replaced, 'document')} replaced${inserted > 0 ? `, ${inserted} added` : ''}.`,
          edit: `${editing.kind === 'edit' ? editing.identity : ''} saved.`,
        }[editing.kind],
      );
      close();
      return;
    }
    if (editing.kind === 'edit' && (done.error as { status?: unknown }).status === 412) {
      await fetchDocument(collection, editing.identity).then(setTheirs, (error: Error) => setProblem(error.message));
      return;
    }
    setProblem(problemText(done.error));
    setReviewing(false);
  };
  const isEdit = editing !== null && editing.kind !== 'add';
  const isSame = isEdit && 'value' in parsed && JSON.stringify(parsed.value) === JSON.stringify(before?.value);
  const isBusy = putting.isLoading || adding.isLoading || puttingAll.isLoading;
  return (
    <Dialog open={editing !== null} onClose={isBusy ? undefined : close} maxWidth="md">
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>{editing === null ? '' : titleOf(editing)}</DialogTitle>
      <DialogContent sx={{ height: '62vh', display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        {theirs ? (
          <>
            <Box role="alert" sx={{ color: 'secondary.main' }}>
              Someone else has changed it since you opened it. On the left of each difference (−) is what is stored now, on the right (+) is
              yours.
            </Box>
            <Box sx={{ overflow: 'auto', flex: 1 }}>
              <DiffView before={theirs.value} after={'value' in parsed ? parsed.value : null} />
            </Box>
          </>
        ) : isReviewing && 'value' in parsed ? (
          <Box sx={{ overflow: 'auto', flex: 1 }}>
            <DiffView before={before?.value} after={parsed.value} />
          </Box>
        ) : (
          <JsonEditor text={text} made={made} onText={setText} label="Document as JSON" />
        )}
        {editing?.kind === 'add' && (
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>One document, or an array of them: all are stored, or none.</Box>
        )}
        {editing?.kind === 'list' && !isReviewing && (
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
            Each is replaced whole by the one of its identity here; those of other identities are added. One that you take out of the list
            stays as it is.
          </Box>
        )}
        {(problem ?? ('problem' in parsed && text.trim() !== '' ? parsed.problem : null)) && (
          <Box role="alert" sx={{ color: 'error.main', fontSize: 12.5 }}>
            {problem ?? ('problem' in parsed ? parsed.problem : '')}
          </Box>
        )}
      </DialogContent>
      <DialogActions sx={{ px: 3, pb: 2 }}>
        {theirs ? (
          <>
            <Button
              onClick={() => {
                setBefore(theirs);
                show(JSON.stringify(theirs.value, null, 2));
                setTheirs(null);
                setReviewing(false);
              }}
            >
              Start from what is stored
            </Button>
            <Button variant="contained" disabled={isBusy} onClick={() => void save(theirs.etag)}>
              Save mine over it
            </Button>
          </>
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
